import { exponential, logNormal, type Random } from '../random/random.ts';

/** How made-up agents and callers behave; live stand-ins and rehearsed days draw from the same. */
export interface Profile {
  /** Mean seconds until a ringing phone is lifted. */
  answerSeconds: number;
  /** Share of offers that ring out. */
  letsItRing: number;
  declines: number;
  talkSeconds: number;
  talkVariation: number;
  /** Mean seconds a caller waits before giving up. */
  patienceSeconds: number;
  messageSeconds: number;
  /** Share of callers who hang up in the voicemail greeting. */
  leavesNoMessage: number;
  /** Share of talks that the agent ends. */
  agentEnds: number;
  /** Share of agents reached outside whose mailbox takes the call: nobody presses the key. */
  mailboxLifts: number;
  /** Of dialled contacts: shares that are a person, a machine, busy, and wrong numbers; the rest ring out. */
  contactIsPerson: number;
  contactIsMachine: number;
  contactIsBusy: number;
  contactIsWrong: number;
  /** Mean seconds until a contact lifts. */
  contactLiftsSeconds: number;
  /** Mean seconds of a person's greeting; a machine's is longer. */
  greetingSeconds: number;
  machineGreetingSeconds: number;
  /** Shares of persons who hang up at once, and who press the key that ends all calls. */
  contactHangsUp: number;
  contactOptsOut: number;
  /** Share of callers who say something else than was expected. */
  mumbles: number;
  /** Share of callers in a menu who press nothing; of the others, those who press the first key. */
  pressesNothing: number;
  pressesFirst: number;
  /** Share of callers who take what they are offered while they wait; of those called back, who do not lift. */
  takesOffer: number;
  missesCallBack: number;
}

export const usualProfile: Profile = {
  answerSeconds: 4,
  letsItRing: 0.03,
  declines: 0.015,
  talkSeconds: 195,
  talkVariation: 0.8,
  patienceSeconds: 240,
  messageSeconds: 18,
  leavesNoMessage: 0.35,
  agentEnds: 0.25,
  mailboxLifts: 0.08,
  contactIsPerson: 0.42,
  contactIsMachine: 0.24,
  contactIsBusy: 0.05,
  contactIsWrong: 0.01,
  contactLiftsSeconds: 9,
  greetingSeconds: 1.6,
  machineGreetingSeconds: 7,
  contactHangsUp: 0.05,
  contactOptsOut: 0.02,
  mumbles: 0.12,
  pressesNothing: 0.04,
  pressesFirst: 0.6,
  takesOffer: 0.3,
  missesCallBack: 0.3,
};

export type PhoneReaction = { does: 'answer' | 'decline'; afterMs: number } | { does: 'nothing' };

export function reactToRing(random: Random, profile: Profile): PhoneReaction {
  const luck = random();
  if (luck < profile.letsItRing) return { does: 'nothing' };
  const afterMs = 1_200 + Math.round(exponential(random, profile.answerSeconds * 1000 - 1_200));
  return { does: luck < profile.letsItRing + profile.declines ? 'decline' : 'answer', afterMs };
}

export function talk(random: Random, profile: Profile): { ms: number; endedBy: 'agent' | 'caller' } {
  const seconds = Math.max(12, logNormal(random, profile.talkSeconds, profile.talkVariation));
  return { ms: Math.round(seconds * 1000), endedBy: random() < profile.agentEnds ? 'agent' : 'caller' };
}

export function patienceMs(random: Random, profile: Profile): number {
  return 4_000 + Math.round(exponential(random, profile.patienceSeconds * 1000));
}

/** From the start of the greeting until the caller hangs up. */
export function voicemailMs(random: Random, profile: Profile, greetingSeconds: number): number {
  if (random() < profile.leavesNoMessage) return Math.round(random() * greetingSeconds * 900);
  return Math.round(greetingSeconds * 1000 + 3_000 + exponential(random, profile.messageSeconds * 1000));
}

/** What somebody at an agent's outside number does: lifts and presses the key, or a mailbox lifts. */
export function reactOutside(
  random: Random,
  profile: Profile,
): { liftsMs: number; pressesMs: number | null } {
  const liftsMs = 2_500 + Math.round(exponential(random, profile.answerSeconds * 1000));
  const mailbox = random() < profile.mailboxLifts;
  return { liftsMs, pressesMs: mailbox ? null : 1_500 + Math.round(random() * 2_000) };
}

/** What a dialled contact's phone comes to. Times in milliseconds, each from the one before. */
export type ContactReaction =
  | { does: 'ringsOut' }
  | { does: 'fails'; cause: 'busy' | 'noRoute'; afterMs: number }
  | {
      does: 'lifts';
      by: 'person' | 'machine';
      afterMs: number;
      greetingMs: number;
      then: 'listens' | 'hangsUp' | 'optsOut';
    };

export function reactContact(random: Random, profile: Profile): ContactReaction {
  let luck = random();
  const afterMs = 2_000 + Math.round(exponential(random, profile.contactLiftsSeconds * 1000));
  const happens = (share: number) => (luck -= share) < 0;
  if (happens(profile.contactIsBusy)) return { does: 'fails', cause: 'busy', afterMs: 1_500 };
  if (happens(profile.contactIsWrong)) return { does: 'fails', cause: 'noRoute', afterMs: 900 };
  if (happens(profile.contactIsMachine)) {
    const greetingMs = 3_000 + Math.round(exponential(random, (profile.machineGreetingSeconds - 3) * 1000));
    return { does: 'lifts', by: 'machine', afterMs, greetingMs, then: 'listens' };
  }
  if (!happens(profile.contactIsPerson)) return { does: 'ringsOut' };
  const greetingMs = 600 + Math.round(exponential(random, (profile.greetingSeconds - 0.6) * 1000));
  const mood = random();
  const then =
    mood < profile.contactHangsUp
      ? 'hangsUp'
      : mood < profile.contactHangsUp + profile.contactOptsOut
        ? 'optsOut'
        : 'listens';
  return { does: 'lifts', by: 'person', afterMs, greetingMs, then };
}

/** The key a caller presses in a menu, and how long after it began; null for none. */
export function pressKey(
  random: Random,
  profile: Profile,
  keys: readonly string[],
  seconds: number,
  optional = false,
): { key: string; afterMs: number } | null {
  if (optional && random() >= profile.takesOffer) return null;
  const luck = random();
  const [first, ...others] = keys;
  if (first === undefined || luck < profile.pressesNothing) return null;
  // Most listen to the end of it, or nearly.
  const afterMs = Math.round(seconds * 1000 * (0.5 + 0.6 * random())) + 800;
  const takesFirst = others.length === 0 || random() < profile.pressesFirst;
  return { key: takesFirst ? first : others[Math.floor(random() * others.length)]!, afterMs };
}

/** What callers say to who listens for anything. */
const anything = [
  'Gull Harbour, please',
  'To Stornay',
  'No, thank you',
  'Pell Island',
  'Can I speak to a person?',
];
const mumbled = ['I was told to call this number', 'Hello? Can you hear me?', 'It is about my umbrella'];

/** What a caller says when somebody listens, and how long after that began; null for silence. */
export function speakWords(
  random: Random,
  profile: Profile,
  phrases: readonly string[],
  seconds: number,
): { words: string; afterMs: number } | null {
  const luck = random();
  const afterMs = Math.round(seconds * 1000 * (0.4 + 0.4 * random())) + 500;
  const one = (of: readonly string[]) => of[Math.floor(random() * of.length)]!;
  if (luck < profile.pressesNothing) return null;
  if (luck < profile.pressesNothing + profile.mumbles) return { words: one(mumbled), afterMs };
  return { words: phrases.length === 0 ? one(anything) : `${one(phrases)}, please`, afterMs };
}

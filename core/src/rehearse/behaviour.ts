import { exponential, logNormal, type Random } from './random.ts';

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

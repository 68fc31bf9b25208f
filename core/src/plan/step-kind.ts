import type { Destination } from '../model/destination.ts';
import type { OpeningHours } from '../hours/opening-hours.ts';
import type {
  PromptItem,
  RegionTable,
  RoomItem,
  ServiceCodeItem,
  VoicemailBoxItem,
} from '../model/configuration.ts';
import type { RingGroupItem } from '../model/ring-group.ts';
import type { BotAnswer, BotFault, BotItem } from '../model/bots.ts';
import type { LeftWish } from '../model/left-wish.ts';
import type { DoneWithMessage, MenuMessage } from '../model/voicemail-menu.ts';
import type { MayPause } from '../model/recording.ts';
import type { RecordFacts } from '../story/facts.ts';
import type { StandsAgainst, StepRecord } from '../story/records.ts';
import type { RingTarget } from '../model/ring.ts';
import type { RingMissWhy } from './ring.ts';
import type { RuleFacts } from './rules.ts';
import type { ConfigOf, Fields, ItemKind } from './fields.ts';
import type { StepKindName } from '../model/plan.ts';

/** A way out of a step. An exit that somebody must connect is a finding while it is open. */
export interface Exit {
  name: string;
  label: string;
  /** Left open, callers would be lost who could be served: it must lead somewhere before the plan is published. */
  needed?: true;
  /** The caller chooses it: a plan may go round by it. */
  chosen?: true;
}

/** What a call rests in until it leaves the step; the exchange knows how to begin each and by which exit it ends. */
export type Begin =
  /** `seconds` is null for as long as the person set. */
  | { kind: 'ring'; personId: string; seconds: number | null }
  | { kind: 'ringOtherPhone'; personId: string }
  /** Of a ring group, or null; `passed` are those of it who could not be rung before. */
  | {
      kind: 'ringSeveral';
      targets: readonly RingTarget[];
      round: number;
      rounds: number;
      groupId: string | null;
      passed: readonly StandsAgainst[];
    }
  /** `priority` is null for what the call has. */
  | { kind: 'wait'; queueId: string; priority: number | null; asks: boolean }
  | { kind: 'record'; boxId: string }
  /** `seconds` is null for as long as the number says. */
  | { kind: 'dialOut'; outsideId: string; seconds: number | null }
  | { kind: 'conference'; roomId: string }
  | { kind: 'receiveFax'; boxId: string };

/** What becomes of a call in a step. */
export type Next<Memory> =
  /** It stays in the step, which remembers this, until the caller does something or the instant has come. */
  | { rest: Memory; until: number | null }
  /** What the step remembers meanwhile; left out, what it did before. */
  | { begin: Begin; remember?: Memory }
  /** Where the plan leaves the exit open: `otherwise`, else what its kind says. */
  | { exit: string; otherwise?: Destination | null }
  /** Back to the plan that went to this one, behind the step that did. */
  | { comeBack: true }
  /** On to another destination, or in the plan of another number of ours or one of its own: it takes the place of this one. */
  | { goTo: Destination }
  | { continueAs: string }
  | { inPlan: string }
  /** What follows when nobody lifts a call meant for this person. */
  | { whenNobodyLifts: string }
  | { end: 'turnedAway' | 'unroutable'; why: 'destinationGone' | 'unroutedNumber' | null };

/** What a step sees of the exchange, and may do to the call in it. */
export interface StepContext {
  readonly now: number;
  /** Whether it is there; of a number, whether it leads anywhere. */
  has(kind: ItemKind, id: string): boolean;
  room(id: string): RoomItem | undefined;
  ringGroup(id: string): RingGroupItem | undefined;
  /** Who answered a call of a ring group last: a person or a number outside. */
  answeredLast(groupId: string): string | null;
  /** The people of a team, by name. */
  peopleOf(teamId: string): readonly string[];
  /** The ring groups somebody is a member of, and whether they take part. */
  groupsOf(personId: string): { id: string; name: string; takesPart: boolean }[];
  /** A member takes part in a ring group, or sits out. */
  takePart(groupId: string, personId: string, takesPart: boolean): void;
  hours(id: string): OpeningHours | undefined;
  regions(id: string): RegionTable | undefined;
  /** In the caller's language, where the prompt has it. */
  prompt(id: string): PromptItem | undefined;
  /** The caller chose a language (BCP 47). */
  speakIn(language: string): void;
  code(id: string): ServiceCodeItem | undefined;
  /** Where an extension leads; and whether another is longer and begins like this. */
  extension(digits: string): Destination | undefined;
  isBegun(digits: string): boolean;
  nameOf(destination: Destination): string;
  nameOfItem(kind: ItemKind, id: string): string;
  /** What rules may ask of this call, as it is now. */
  facts(): RuleFacts;
  /** The caller pressed a key that means something; later steps may ask for it. */
  pressed(key: string): void;
  /** Lays a storm over sets until an instant (UTC milliseconds), or takes it away; on behalf of this person. */
  storm(hoursIds: readonly string[], until: number | null, personId: string): void;
  /** No campaign calls this caller again. Nothing when their number is withheld. */
  optOut(): void;
  /** When our side ends the talk first, the call goes on behind this exit of this step. */
  whenTalkIsOver(exit: string): void;
  /** Whether talks are recorded from here on, and who may pause that. */
  setRecording(wish: { on: boolean; mayPause: MayPause }): void;
  /** The caller heard that talks are recorded. */
  toldOfRecording(): void;
  /** The call goes on to a queue that may record its talks: the notice that must be said before, or null. */
  recordForQueue(queueId: string): PromptItem | null;
  /** The caller answered a question of a survey, 1 to 5. */
  answered(question: string, answer: number): void;
  /** Whether the caller asked for no more calls and texts. */
  isOptedOut(): boolean;
  /** The number, or extension, that was called. */
  readonly called: string;
  /** Sends the caller a text from a number of ours. */
  text(message: { numberId: string; body: string }): void;
  /** Asks the customer system who it knows by these digits; the answer comes as `on.replied`. Gives its number. */
  lookUp(asked: { digits: string; field: string; withinSeconds: number }): number;
  /** What is done once the caller has left, of this step. */
  whenCallerLeft(wish: Omit<LeftWish, 'stepId'>): void;
  /** Words that no prompt of the library has, said by a voice; how long that takes, in milliseconds. */
  speak(words: string, keys?: readonly string[]): number;
  box(id: string): VoicemailBoxItem | undefined;
  /** The box of whose phone calls; the one whose extension, or whose owner's, this is. Null for none. */
  ownBox(): string | null;
  boxOf(extension: string): string | null;
  /** Whether a box opens by a PIN now. */
  pinOf(boxId: string): 'none' | 'asked' | 'locked';
  /** Whether this is its PIN. Wrong ones in a row lock it. */
  isPin(boxId: string, pin: string): boolean;
  /** Asks which messages a box holds; the answer comes as `on.replied`. Gives its number. */
  readBox(boxId: string): number;
  /** Plays a message; how long it takes, in milliseconds. */
  playMessage(messageId: string, seconds: number, keys: readonly string[]): number;
  doneWithMessage(boxId: string, messageId: string, what: DoneWithMessage): void;
  recordGreeting(boxId: string, does: 'start' | 'stop'): void;
  /** Listens for so many seconds to what the caller says; `phrases` are expected, none for anything. */
  listen(phrases: readonly string[], seconds: number): void;
  bot(id: string): BotItem | undefined;
  /** Asks a bot what to say to what the caller said; the answer comes as `on.replied`. Gives its number. */
  askBot(turn: { botId: string; turn: number; said: string; withinSeconds: number }): number;
  /** It is known now of the call, by these names. */
  found(facts: Readonly<Record<string, string>>): void;
  /** It is known now who calls. */
  identify(record: RecordFacts): void;
  /** Why a voicemail box takes no message now, and where it sends callers then; null when it does. */
  noMessage(
    boxId: string,
  ): { why: 'boxFull' | 'storageFull'; held: number; whenFull: Destination | null } | null;
  play(prompt: 'enterPin' | 'boxFull'): void;
  /** Plays a prompt of the library to the caller; how long it takes, in milliseconds. `keys` may be pressed meanwhile. */
  say(prompt: PromptItem, keys: readonly string[]): number;
  note(record: StepRecord): void;
}

/** Why nobody took a call that several were rung for. */
export interface RingMiss {
  why: RingMissWhy;
  /** Who was not rung, where no record of the turn says it. */
  not: readonly StandsAgainst[];
}

/** What the host answered to something a step asked. */
export type Reply =
  /** Whom the customer system knows; `failed` when it could not be asked. */
  | { of: 'record'; asked: number; record: RecordFacts | null; failed: boolean }
  /** What a bot says; null with a reason when nothing came of it. */
  | { of: 'bot'; asked: number; answer: BotAnswer; why: null }
  | { of: 'bot'; asked: number; answer: null; why: BotFault }
  /** What a voicemail box holds. */
  | { of: 'box'; asked: number; messages: readonly MenuMessage[] };

/** What was said, or typed as the answer to a text. */
export interface Spoken {
  words: string;
  by: 'voice' | 'text';
}

/** How items are called now. */
export type Names = (kind: ItemKind, id: string) => string;

/**
 * One kind of step, in one file. Its exits are the only knowledge of what can follow it: the editor draws them, the
 * check walks them, the run leaves by them.
 */
export interface StepKind<F extends Fields = Fields, Memory = unknown> {
  readonly kind: StepKindName;
  /** As the shelf and the list call it. */
  readonly word: string;
  readonly fields: F;
  exits(config: ConfigOf<F>): readonly Exit[];
  /** The exit by which the list goes straight on; null where no way is the usual one. */
  main: string | null;
  /** As it is when it is taken from the shelf, before it names anything. */
  fresh: ConfigOf<F>;
  /** Where the step sends the call, as stories and facts name it; null for a step that sends it nowhere. */
  destination(config: ConfigOf<F>): Destination | null;
  enter(context: StepContext, config: ConfigOf<F>): Next<Memory>;
  /** What follows an exit that the plan leaves open. */
  whenOpen(exit: string, config: ConfigOf<F>, context: StepContext): Next<Memory>;
  /** What a call that rests in the step does about what happens; null for what it does not expect. */
  on?: {
    key?(context: StepContext, config: ConfigOf<F>, memory: Memory, key: string): Next<Memory> | null;
    timeout?(context: StepContext, config: ConfigOf<F>, memory: Memory): Next<Memory>;
    /** The host has answered; null for an answer that nothing waits for any more. */
    replied?(context: StepContext, config: ConfigOf<F>, memory: Memory, reply: Reply): Next<Memory> | null;
    /** The caller said or wrote something; null where nobody listens. */
    spoken?(context: StepContext, config: ConfigOf<F>, memory: Memory, spoken: Spoken): Next<Memory> | null;
    /** What the call rested in is over, by this exit, and why nobody took it; null leaves the step by it. */
    exit?(
      context: StepContext,
      config: ConfigOf<F>,
      memory: Memory,
      exit: string,
      miss: RingMiss | null,
    ): Next<Memory> | null;
  };
  /** What the step does, in the words of a list. */
  describe(config: ConfigOf<F>, names: Names): string;
}

/** The item is not there any more; a plan may say what follows. */
export const gone: Exit = { name: 'gone', label: 'it is gone' };

/** What follows an open exit unless its kind knows better: the call ends, and it is said why. */
export function endWhenOpen(exit: string): Next<never> {
  return exit === gone.name
    ? { end: 'unroutable', why: 'destinationGone' }
    : { end: 'turnedAway', why: null };
}

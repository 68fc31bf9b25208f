import type { PassedStep } from '../exchange/kernel/journal.ts';
import type { Effect } from '../exchange/kernel/effects.ts';
import type { BotAnswer, BotFault } from '../model/bots.ts';
import type { RecordFacts } from '../story/facts.ts';
import type { CompiledPlan } from '../model/plan.ts';

export interface TestCall {
  to: string;
  from: string;
  at: number;
  /** What the customer records know of the caller. */
  record?: RecordFacts;
  /** Pressed one after the other, each where the caller is asked for a key. */
  keys?: string;
  /** Said one after the other, each where somebody listens. */
  says?: readonly string[];
  /** What a bot answers, turn by turn. */
  botAnswers?: readonly BotReply[];
  /** Whom the customer records know by digits the caller may type. */
  lookUps?: Readonly<Record<string, RecordFacts>>;
  /** A plan nobody has published: the number called leads there, for this call. */
  plan?: CompiledPlan;
  /** Played by hand: nobody lifts and nothing is pressed by itself; the call is looked at after so long. */
  hand?: { moves: HandMove[]; untilMs: number };
}

/** A turn of a bot: what it answered, or why nothing came of it. */
export type BotReply = { answer: BotAnswer; why: null } | { answer: null; why: BotFault };
/** What a bot is asked. */
export type BotAsked = Omit<Effect & { kind: 'askBot' }, 'kind'>;

/** What the caller does, or somebody who is rung, so long after the call began. */
export type HandMove = { afterMs: number } & (
  | { does: 'key'; key: string }
  | { does: 'say'; words: string }
  | { does: 'hangUp' }
  | { does: 'lift' | 'decline'; personId: string }
);

/** Mean talk of a queue's calls in milliseconds; null stands for direct calls. */
export type MeanTalk = (queueId: string | null) => number;

export type PathStep = Omit<PassedStep, 'callId'>;

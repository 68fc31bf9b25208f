/** A bot outside that talks with callers, turn by turn. Its address and key are the host's. */
export interface BotItem {
  id: string;
  name: string;
  /** Seconds it has to answer in. */
  limitSeconds: number;
  mostTurns: number;
}

/** What a bot answers in a turn (docs/bots.md). Data as it is. */
export interface BotAnswer {
  /** What the caller hears; empty for nothing. */
  say: string;
  /** Listen for what the caller says; it is done; somebody of ours is to take over. */
  then: 'listen' | 'done' | 'handOver';
  /** What it found out in this turn, by name. */
  facts: Record<string, string>;
  /** What the caller hears from here on (BCP 47); null for as before. */
  language: string | null;
}

/** It did not answer in time; it could not be reached or had a fault; what it answered is no answer; it is too large. */
export const botFaults = ['slow', 'fault', 'nonsense', 'tooLarge'] as const;
export type BotFault = (typeof botFaults)[number];

export const mostFacts = 20;
export const longestFact = 200;
export const longestSaid = 1_000;

/** How the agent says a call ended. `then` is what becomes of a campaign's contact. */
export interface Outcome {
  name: string;
  /** Counts as a good call, whatever its length. */
  good: boolean;
  then: 'done' | 'tryAgain' | 'optOut';
}

/** Offered where a queue or campaign names none of its own. */
export const usualOutcomes: readonly Outcome[] = [
  { name: 'Dealt with', good: true, then: 'done' },
  { name: 'Call back', good: false, then: 'tryAgain' },
  { name: 'Wrong number', good: false, then: 'done' },
  { name: 'Never call again', good: false, then: 'optOut' },
];

/** The outcomes to choose from: a queue's or campaign's own, else the usual ones. */
export function outcomesOf(own: readonly Outcome[]): readonly Outcome[] {
  return own.length > 0 ? own : usualOutcomes;
}

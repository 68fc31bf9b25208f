/** How many calls of queues somebody answered, by the quarter of an hour. Every zone's midnight begins one. */
export type AnsweredCalls = readonly { readonly quarter: number; readonly calls: number }[];

const quarterMs = 900_000;
/** A day of the local clock has at most 25 hours. */
const keptQuarters = 100;

/** One call more, at `at`; what is older than any day goes. */
export function withAnswered(answered: AnsweredCalls, at: number): AnsweredCalls {
  const quarter = Math.floor(at / quarterMs);
  const last = answered.at(-1);
  if (last?.quarter === quarter) return [...answered.slice(0, -1), { quarter, calls: last.calls + 1 }];
  const kept = answered.filter((each) => each.quarter >= quarter - keptQuarters);
  return [...kept, { quarter, calls: 1 }];
}

/** How many were answered since `from`, an instant at which a quarter of an hour begins. */
export function answeredSince(answered: AnsweredCalls, from: number): number {
  let count = 0;
  for (const { quarter, calls } of answered) if (quarter * quarterMs >= from) count += calls;
  return count;
}

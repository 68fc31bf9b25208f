/** What decides who of two callers is served first. */
export interface Queued {
  readonly id: string;
  readonly priority: number;
  /** From when their wait counts (UTC milliseconds). */
  readonly enteredAt: number;
}

/** What of a queue decides between callers of two queues. */
interface Ranked {
  readonly priority: number;
  readonly agePoints?: number;
  readonly agesAcross?: boolean;
}

const minute = 60_000;

/**
 * Larger priority first, then who entered first, then id (docs/definitions.md, "Order of callers"). A minute of waiting
 * adds `agePoints` to the priority, continuously: since all of a queue age alike, who of two comes first never changes
 * while they wait. Compared in whole numbers.
 */
export function callBefore(one: Queued, other: Queued, agePoints = 0): boolean {
  if (agePoints > 0) {
    const ahead = (one.priority - other.priority) * minute - agePoints * (one.enteredAt - other.enteredAt);
    if (ahead !== 0) return ahead > 0;
  } else if (one.priority !== other.priority) return one.priority > other.priority;
  if (one.enteredAt !== other.enteredAt) return one.enteredAt < other.enteredAt;
  return one.id < other.id;
}

/**
 * Whether `one` of a queue comes before `other` of another at `now`: by the priority of their queues, to which their age
 * counts where the queue says so; then by their own, with their age; then by time.
 */
export function servedBefore(
  queue: Ranked,
  one: Queued,
  otherQueue: Ranked,
  other: Queued,
  now: number,
): boolean {
  const rank = rankOf(queue, one, now) - rankOf(otherQueue, other, now);
  if (rank !== 0) return rank > 0;
  const aged =
    one.priority * minute + ageOf(queue, one, now) - other.priority * minute - ageOf(otherQueue, other, now);
  return aged === 0 ? callBefore(one, other) : aged > 0;
}

const ageOf = ({ agePoints = 0 }: Ranked, { enteredAt }: Queued, now: number) =>
  agePoints * (now - enteredAt);

const rankOf = (queue: Ranked, call: Queued, now: number) =>
  queue.priority * minute + (queue.agesAcross === true ? ageOf(queue, call, now) : 0);

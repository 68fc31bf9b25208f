/** What decides who of two callers is served first. */
interface Queued {
  readonly id: string;
  readonly priority: number;
  readonly enteredAt: number;
}

/** Larger priority first, then time of entering the queue, then id (docs/definitions.md, "Order of callers"). */
export function callBefore(one: Queued, other: Queued): boolean {
  if (one.priority !== other.priority) return one.priority > other.priority;
  if (one.enteredAt !== other.enteredAt) return one.enteredAt < other.enteredAt;
  return one.id < other.id;
}

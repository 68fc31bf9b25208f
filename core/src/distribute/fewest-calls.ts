import type { Distribution, QueueMember } from './distribution.ts';
import { compared, earlierListed } from './in-turns.ts';

/** Who answered the fewest calls since the queue's local midnight, over all queues; then as listed. */
export function fewerCalls(one: QueueMember, other: QueueMember): boolean {
  if (one.answeredToday !== other.answeredToday) return one.answeredToday < other.answeredToday;
  return earlierListed(one, other);
}

export const fewestCalls: Distribution = {
  kind: 'fewestCalls',
  ring: 'one',
  makeIndex: compared(fewerCalls),
};

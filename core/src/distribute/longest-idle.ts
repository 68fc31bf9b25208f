import type { Distribution, QueueMember } from './distribution.ts';
import { compared, earlierListed } from './in-turns.ts';

/**
 * Who is wholly free before who talks already, then longest idle first (docs/definitions.md, "Choosing an agent").
 */
export function longerIdle(one: QueueMember, other: QueueMember): boolean {
  if (one.callCount !== other.callCount) return one.callCount < other.callCount;
  if (one.idleSince !== other.idleSince) return one.idleSince < other.idleSince;
  return earlierListed(one, other);
}

export const longestIdle: Distribution = {
  kind: 'longestIdle',
  ring: 'one',
  makeIndex: compared(longerIdle),
};

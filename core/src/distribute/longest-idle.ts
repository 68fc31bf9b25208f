import { IndexedHeap, type HeapNode } from '../collections/indexed-heap.ts';
import type { Distribution, Member } from './distribution.ts';

/** What longest-idle distribution compares. */
export interface IdleMember extends Member {
  /** Calls they are connected to: above 0 only for who may take several. */
  readonly callCount: number;
  /** Latest of sign-in, return from away, end of the last call, end of wrap-up (UTC milliseconds). */
  readonly idleSince: number;
}

/**
 * Who is wholly free before who talks already, then longest idle first; ties by member order, then person id, so that no
 * result depends on the order of the input (docs/definitions.md, "Choosing an agent").
 */
export function longerIdle(one: IdleMember, other: IdleMember): boolean {
  if (one.callCount !== other.callCount) return one.callCount < other.callCount;
  if (one.idleSince !== other.idleSince) return one.idleSince < other.idleSince;
  if (one.order !== other.order) return one.order < other.order;
  return one.personId < other.personId;
}

export const longestIdle: Distribution<IdleMember & HeapNode> = {
  kind: 'longestIdle',
  ring: 'one',
  because: 'longestIdle',
  makeIndex: () => new IndexedHeap<IdleMember & HeapNode>(longerIdle),
};

import type { HeapNode } from '../collections/indexed-heap.ts';
import type { DistributionKind } from '../model/distribution.ts';

/** What every distribution knows of a member of a queue, eligible or not. */
export interface Member {
  readonly personId: string;
  /** Place in the queue's member list, from 0. */
  readonly order: number;
  /** 1 is rung first; a later turn only when nobody of an earlier one can be. */
  readonly turn: number;
}

/** All that any distribution compares. */
export interface QueueMember extends Member, HeapNode {
  /** Calls they are connected to: above 0 only for who may take several. */
  readonly callCount: number;
  /** Latest of sign-in, return from away, end of the last call, end of wrap-up (UTC milliseconds). */
  readonly idleSince: number;
  /** Calls of queues they answered since the queue's local midnight. */
  readonly answeredToday: number;
  /** The stage of a caller's wait from which they may be rung (stages.ts). */
  readonly stage: number;
  /** Their level of each skill the queue asks for, in its order; 0 for one they lack. */
  readonly levels: readonly number[];
}

/** What of a queue, and not of a member, an order depends on. */
export interface Past {
  /** The order of the member who answered last, -1 for none. */
  readonly lastAnswered: number;
  /** What the next choice at random is drawn from; another for each choice. */
  readonly draw: number;
}

/** The eligible members of one queue, kept in the order in which they are to be rung. */
export interface EligibleIndex<M> {
  readonly size: number;
  /** The first stage at which anybody may be rung; infinite when nobody is inside. */
  readonly firstStage: number;
  /** How many may be rung for a caller at this stage. */
  sizeAt(stage: number): number;
  /** Takes a member in who became eligible. */
  push(member: M): void;
  /** Takes a member out; does nothing when they are not inside. */
  remove(member: M): void;
  /** The first to be rung for a caller at this stage. */
  peek(stage: number): M | undefined;
  /** Those who may be rung at this stage, from the first on, for as long as the caller asks. */
  inOrder(stage: number): Iterable<M>;
}

/** A way of choosing: in which order the eligible are rung, and whether one of them or all. */
export interface Distribution {
  readonly kind: DistributionKind;
  readonly ring: 'one' | 'all';
  /** The index of one queue, empty. Adding, removing and the first member cost O(log n) comparisons. */
  makeIndex<M extends QueueMember>(past: Past): EligibleIndex<M>;
}

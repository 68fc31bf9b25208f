/** What every distribution knows of a member of a queue, eligible or not. */
export interface Member {
  readonly personId: string;
  /** Place in the queue's member list, from 0. */
  readonly order: number;
}

/** The ways in which a queue chooses who rings; each is one file beside this one. */
export type DistributionKind = 'longestIdle';

/** The eligible members of one queue, kept in the order in which they are to be rung. */
export interface EligibleIndex<M> {
  readonly size: number;
  /** Takes a member in who became eligible, or puts one to their place who was outside. */
  push(member: M): void;
  /** Takes a member out; does nothing when they are not inside. */
  remove(member: M): void;
  /** The first to be rung. */
  peek(): M | undefined;
  /** From the first to be rung on, for as long as the caller asks. */
  inOrder(): Iterable<M>;
}

/** A way of choosing: in which order the eligible are rung, and whether one of them or all. */
export interface Distribution<M extends Member> {
  readonly kind: DistributionKind;
  readonly ring: 'one' | 'all';
  /** Why the first of several is the one, as a decision says it. */
  readonly because: DistributionKind;
  /** The index of one queue, empty. Adding, removing and the first member cost O(log n). */
  makeIndex(): EligibleIndex<M>;
}

import type { HeapNode } from '../collections/indexed-heap.ts';
import type { Distribution, DistributionKind } from './distribution.ts';
import { type IdleMember, longestIdle } from './longest-idle.ts';

/** All that any distribution compares. */
export type QueueMember = IdleMember & HeapNode;

/** The only list of distributions. */
export const distributions: Readonly<Record<DistributionKind, Distribution<QueueMember>>> = { longestIdle };

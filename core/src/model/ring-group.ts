import type { GroupOrder, RingTarget } from './ring.ts';
import type { Destination } from './destination.ts';

/** What a phone shows while a call of the group rings it. */
export const groupShows = ['groupAndCaller', 'caller', 'numberDialled'] as const;
export type GroupShows = (typeof groupShows)[number];

/** Why nobody of a group took a call, and so by which way the caller leaves. */
export const groupWays = ['busy', 'notTaken', 'outage'] as const;
export type GroupWay = (typeof groupWays)[number];

/** A few phones that ring together or in turn; nobody waits in it. */
export interface RingGroupItem {
  id: string;
  name: string;
  extension: string | null;
  targets: readonly RingTarget[];
  order: GroupOrder;
  rounds: number;
  shows: GroupShows;
  /** Null where busy and outage lead to what follows when nobody lifts. */
  whenBusy: Destination | null;
  whenUnanswered: Destination;
  /** No phone of theirs is registered, or the line to it is down. */
  whenOutage: Destination | null;
}

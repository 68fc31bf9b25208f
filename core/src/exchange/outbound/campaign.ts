import type { CampaignItem } from '../../model/configuration.ts';
import type { DayTally } from '../../outbound/pacing.ts';
import type { LeasedContact } from '../kernel/events.ts';
import type { Trunk } from '../media/trunk.ts';
import type { QueueState } from '../queues/queue.ts';
import type { Timer, TimerOwner } from '../kernel/timers.ts';

/** A campaign at work. Contacts in `buffer` are leased from the host and not called yet. */
export class Campaign implements TimerOwner {
  item: CampaignItem;
  /** Whose agents take its calls and over which trunk they go out, while both are in the set-up. */
  queue: QueueState | null = null;
  trunk: Trunk | null = null;
  buffer: LeasedContact[] = [];
  /** The host was asked for contacts and has not answered. */
  asked = false;
  /** The host has none left, until contacts change; with a timer, until that instant. */
  exhausted = false;
  /** Contacts whose calls are on. */
  readonly calling = new Set<string>();
  /** Calls in the air. */
  inAir = 0;
  /** By local day, oldest first, 30 days at most. */
  tallies: DayTally[] = [];
  timers: Timer | null = null;

  constructor(item: CampaignItem) {
    this.item = item;
  }
}

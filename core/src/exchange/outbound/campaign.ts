import type { CampaignItem } from '../../model/configuration.ts';
import type { DayTally } from '../../outbound/pacing.ts';
import type { LeasedContact } from '../kernel/events.ts';
import type { Timer, TimerOwner } from '../kernel/timers.ts';

/** A campaign at work. Contacts in `buffer` are leased from the host and not called yet. */
export class Campaign implements TimerOwner {
  item: CampaignItem;
  buffer: LeasedContact[] = [];
  /** The host was asked for contacts and has not answered. */
  asked = false;
  /** The host has none left, until contacts change; with a timer, until that instant. */
  exhausted = false;
  /** Calls in the air. */
  inAir = 0;
  /** By local day, oldest first, 30 days at most. */
  tallies: DayTally[] = [];
  timers: Timer[] = [];

  constructor(item: CampaignItem) {
    this.item = item;
  }
}

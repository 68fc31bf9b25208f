import type { RingGroupItem } from '../../model/ring-group.ts';

/** A ring group as it is now. */
export class RingGroup {
  item: RingGroupItem;
  /** The person or number outside that answered its last call: round robin goes on behind them. */
  lastAnswered: string | null = null;
  /** Members who take no part for the time being, in the order in which they left. */
  sitOut: readonly string[] = [];

  constructor(item: RingGroupItem) {
    this.item = item;
  }
}

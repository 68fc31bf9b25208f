import type { TrunkItem } from '../../model/configuration.ts';
import type { Agent } from '../agents/agent.ts';

/** A trunk at work. Invariant: `inUse` counts the legs of calls that name it. */
export class Trunk {
  item: TrunkItem;
  inUse = 0;
  /** Agents with an outside number over it: whether it has a channel free decides whether they can be rung. */
  readonly agents = new Set<Agent>();

  constructor(item: TrunkItem) {
    this.item = item;
  }

  get isFull(): boolean {
    return this.inUse >= this.item.channels;
  }
}

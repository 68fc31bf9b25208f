import type { RingMissWhy } from '../../plan/ring.ts';
import type { Agent } from '../agents/agent.ts';

/** One of those who are rung: their leg, and until when it rings or waits to be accepted. */
export interface OfferPart {
  agent: Agent;
  legId: string;
  until: number;
}

/** A call offered to one agent or to several: the first to answer has it, the others are left in peace. */
export interface Offer {
  mode: 'one' | 'all';
  since: number;
  parts: OfferPart[];
  /** What came of those who are rung no more: the strongest of it. */
  missed?: RingMissWhy;
  /** Somebody picked it up who was not chosen for it: when they do not lift after all, nothing is held against them. */
  pickedUp: boolean;
}

import { type HeapNode, IndexedHeap } from '../../collections/indexed-heap.ts';
import type { Distribution, EligibleIndex } from '../../distribute/distribution.ts';
import { type Reason, reasonCodes, skillGaps, skillTooLowIndex } from '../../distribute/eligibility.ts';
import { distributions, type QueueMember } from '../../distribute/registry.ts';
import type { QueueItem } from '../../model/configuration.ts';
import { type Measured, nothingMeasured } from '../../staffing/expected-wait.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import { callBefore } from '../calls/order.ts';

/** An agent's place in one queue; in that queue's index of the eligible while the agent is. */
export class Membership implements HeapNode, QueueMember {
  heapIndex = -1;
  /** Counted in `queue.idleAutoAnswering`. */
  counted = false;
  readonly agent: Agent;
  readonly queue: QueueState;
  readonly order: number;
  readonly personId: string;
  /** Skills of which the queue asks for more. */
  gaps: Reason[] = [];
  /** As counted in the queue: the agent's first reason against, or a gap; -1 when eligible. */
  firstReason = -1;
  /** Of the agent, as they were when this was put in the index: its order must not change while it stands in it. */
  idleSince = 0;
  callCount = 0;

  constructor(agent: Agent, queue: QueueState, order: number) {
    this.agent = agent;
    this.queue = queue;
    this.order = order;
    this.personId = agent.person.id;
    this.compareSkills();
  }

  /** After the agent's skills or what the queue asks for changed. */
  compareSkills(): void {
    this.gaps = skillGaps(this.agent.person.skills, this.queue.item.skills);
  }

  /** Takes its place in the index by what the agent is now. */
  enterIndex(): void {
    this.idleSince = this.agent.idleSince;
    this.callCount = this.agent.calls.length;
    this.queue.idle.push(this);
  }

  reasonNow(): number {
    if (this.agent.firstReason >= 0) return this.agent.firstReason;
    return this.gaps.length > 0 ? skillTooLowIndex : -1;
  }
}

/**
 * A queue at work. Invariant: after every event, no caller waits while a member is idle, and no answered contact waits
 * while a member is idle whose phone answers by itself.
 */
export class QueueState {
  item: QueueItem;
  retired = false;
  members: Membership[] = [];
  /** Eligible members, in the order of the distribution. */
  readonly idle: EligibleIndex<Membership>;
  /** Callers waiting and not being offered. */
  readonly waitingList = new IndexedHeap<Call>(callBefore);
  /** Contacts of campaigns who answered; they have two seconds, and come before callers. */
  readonly answered = new IndexedHeap<Call>(callBefore);
  /** Idle members whose phone answers by itself: those a campaign can count on. */
  idleAutoAnswering = 0;
  /** Calls in the air of the campaigns of this queue: without, and with, an agent reserved for them. */
  inAir = 0;
  reservations = 0;
  /** Callers being offered to an agent; they count as waiting for the limits. */
  offering = 0;
  /** Members not signed out. */
  signedIn = 0;
  /** What became of its callers: for what the next would wait. */
  measured: Measured = nothingMeasured;
  /** Members by first reason against, in the order of reasonCodes. */
  readonly reasonCounts: number[] = reasonCodes.map(() => 0);

  constructor(item: QueueItem) {
    this.item = item;
    this.idle = this.distribution.makeIndex() as EligibleIndex<Membership>;
  }

  get distribution(): Distribution<QueueMember> {
    return distributions.longestIdle;
  }
}

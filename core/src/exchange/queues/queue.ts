import { IndexedHeap } from '../../collections/indexed-heap.ts';
import type { Distribution, EligibleIndex, Past, QueueMember } from '../../distribute/distribution.ts';
import { type Reason, reasonCodes, skillGaps, skillTooLowIndex } from '../../distribute/eligibility.ts';
import { drawOf } from '../../distribute/random-draw.ts';
import { distributions } from '../../distribute/registry.ts';
import { seedFrom } from '../../random/random.ts';
import type { QueueItem } from '../../model/configuration.ts';
import { type Measured, nothingMeasured } from '../../staffing/expected-wait.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import { callBefore } from '../calls/order.ts';

/** An agent's place in one queue; in that queue's index of the eligible while the agent is. */
export class Membership implements QueueMember {
  heapIndex = -1;
  /** Counted in `queue.idleAutoAnswering`. */
  counted = false;
  readonly agent: Agent;
  readonly queue: QueueState;
  readonly order: number;
  readonly turn: number;
  readonly personId: string;
  /** Of each skill the queue asks for, in its order. */
  levels: readonly number[] = [];
  /** Skills of which the queue asks for more. */
  gaps: Reason[] = [];
  /** As counted in the queue: the agent's first reason against, or a gap; -1 when eligible. */
  firstReason = -1;
  /** Of the agent, as they were when this was put in the index: its order must not change while it stands in it. */
  idleSince = 0;
  callCount = 0;
  answeredToday = 0;

  constructor(agent: Agent, queue: QueueState, order: number) {
    this.agent = agent;
    this.queue = queue;
    this.order = order;
    this.turn = queue.item.turns?.[order] ?? 1;
    this.personId = agent.person.id;
    this.compareSkills();
  }

  /** After the agent's skills or what the queue asks for changed. */
  compareSkills(): void {
    const { skills } = this.agent.person;
    this.levels = this.queue.item.skills.map(({ skillId }) => skills[skillId] ?? 0);
    this.gaps = skillGaps(skills, this.queue.item.skills);
  }

  /** Takes its place in the index by what the agent is now. */
  enterIndex(): void {
    this.idleSince = this.agent.idleSince;
    this.callCount = this.agent.calls.length;
    this.answeredToday = this.queue.countsToday ? this.agent.answeredSince(this.queue.dayBegan) : 0;
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
export class QueueState implements Past {
  item: QueueItem;
  retired = false;
  members: Membership[] = [];
  /** Eligible members, in the order of the distribution. */
  idle!: EligibleIndex<Membership>;
  distribution!: Distribution;
  /** Whether its order depends on what was answered today. */
  countsToday!: boolean;
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
  /** Callers who wait until all are rung again; they are in no order meanwhile. */
  pausing = 0;
  /** Members not signed out. */
  signedIn = 0;
  /** What became of its callers: for what the next would wait. */
  measured: Measured = nothingMeasured;
  /** The order of the member who answered last, -1 for none. */
  lastAnswered = -1;
  /** Choices made: each draw at random has a seed of its own. */
  draws = 0;
  /** When the day of `answeredToday` began, and ends. */
  dayBegan = 0;
  dayEnds = 0;
  /** Members by first reason against, in the order of reasonCodes. */
  readonly reasonCounts: number[] = reasonCodes.map(() => 0);

  constructor(item: QueueItem) {
    this.item = item;
    this.orderAnew();
  }

  /** After the way of choosing changed, and before members are put into the index again. */
  orderAnew(): void {
    this.distribution = distributions[this.item.distribution ?? 'longestIdle'];
    this.countsToday = this.distribution.kind === 'fewestCalls';
    this.idle = this.distribution.makeIndex<Membership>(this);
    this.dayEnds = 0;
  }

  get draw(): number {
    return drawOf(seedFrom(this.item.id), this.draws);
  }

  get inTurns(): boolean {
    return this.item.turns !== undefined;
  }
}

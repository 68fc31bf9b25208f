import { IndexedHeap } from '../../collections/indexed-heap.ts';
import type { Distribution, EligibleIndex, Past, QueueMember } from '../../distribute/distribution.ts';
import {
  firstReasonIndex,
  reasonCodes,
  type RingRules,
  skillTooLowIndex,
  usualRules,
} from '../../distribute/eligibility.ts';
import { drawOf } from '../../distribute/random-draw.ts';
import { distributions } from '../../distribute/registry.ts';
import { fitsFrom, stageAfter, stagesOf } from '../../distribute/stages.ts';
import { seedFrom } from '../../random/random.ts';
import type { QueueItem } from '../../model/configuration.ts';
import { type Measured, nothingMeasured } from '../../staffing/expected-wait.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import { callBefore } from '../calls/order.ts';
import { WaitingList } from './waiting-list.ts';

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
  /** The first stage of a caller's wait at which they fit; infinite when they never do. */
  fitsFrom = 0;
  /** As counted in the queue: the agent's first reason against, or a gap; -1 when eligible. */
  firstReason = -1;
  /** Counted in `queue.present`. */
  present = false;
  /** As they were when this was put in the index: its place must not change while it stands in it. */
  stage = 0;
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
    const { item, stages } = this.queue;
    this.levels = item.skills.map(({ skillId }) => skills[skillId] ?? 0);
    this.fitsFrom = fitsFrom(item, stages, skills, this.joinsAfter);
  }

  /** Seconds of waiting after which they are among those who may be rung. */
  get joinsAfter(): number {
    return this.queue.item.joinsAfter?.[this.order] ?? 0;
  }

  /** Takes its place in the index by what the agent is now. */
  enterIndex(): void {
    this.stage = this.fitsFrom;
    this.idleSince = this.agent.idleSince;
    this.callCount = this.agent.calls.length;
    this.answeredToday = this.queue.countsToday ? this.agent.answeredSince(this.queue.dayBegan) : 0;
    this.queue.idle.push(this);
  }

  /** By the rules of its queue; those of most queues are the usual ones, which the agent knows the answer to. */
  reasonNow(now: number): number {
    const { rules } = this.queue;
    const reason = rules === usualRules ? this.agent.firstReason : firstReasonIndex(this.agent, now, rules);
    if (reason >= 0) return reason;
    return Number.isFinite(this.fitsFrom) ? -1 : skillTooLowIndex;
  }

  /** Whether they may come to the queue's callers: signed in, and not away for a reason that keeps them. */
  get isPresent(): boolean {
    const { presence, awayReason } = this.agent;
    return (
      presence === 'available' ||
      (presence === 'away' && this.queue.rules.ringsAway.includes(awayReason ?? ''))
    );
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
  /** Seconds of waiting after which it becomes easier to be served. */
  stages: readonly number[] = [];
  rules: RingRules = usualRules;
  /** Callers waiting and not being offered. */
  waitingList!: WaitingList<Call>;
  /** Contacts of campaigns who answered; they have two seconds, and come before callers. */
  readonly answered = new IndexedHeap<Call>((one, other) => callBefore(one, other));
  /** Idle members whose phone answers by itself: those a campaign can count on. */
  idleAutoAnswering = 0;
  /** Calls in the air of the campaigns of this queue: without, and with, an agent reserved for them. */
  inAir = 0;
  reservations = 0;
  /** Callers being offered to an agent; they count as waiting for the limits. */
  offering = 0;
  /** Callers who wait until all are rung again; they are in no order meanwhile. */
  pausing = 0;
  /** Members not signed out; and those of them who are not away, or are rung all the same. */
  signedIn = 0;
  present = 0;
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

  /** After what its orders depend on has changed, and before members and callers are put into them again. */
  orderAnew(): void {
    this.stages = stagesOf(this.item);
    this.rules = rulesOf(this.item);
    this.waitingList = new WaitingList<Call>(this.item.agePoints ?? 0);
    this.distribution = distributions[this.item.distribution ?? 'longestIdle'];
    this.countsToday = this.distribution.kind === 'fewestCalls';
    this.idle = this.distribution.makeIndex<Membership>(this);
    this.dayEnds = 0;
  }

  /** The stage of a caller whose wait counts from `enteredAt`. */
  stageOf(enteredAt: number, now: number): number {
    return this.stages.length === 0 ? 0 : stageAfter(this.stages, now - enteredAt);
  }

  get draw(): number {
    return drawOf(seedFrom(this.item.id), this.draws);
  }

  get inTurns(): boolean {
    return this.item.turns !== undefined;
  }
}

/** The queue's own rules, or the usual ones, which are one object. */
function rulesOf({ ringsAway = [], ringsInWrapUp = false, mostTexts = null }: QueueItem): RingRules {
  const isUsual = ringsAway.length === 0 && !ringsInWrapUp && mostTexts === null;
  return isUsual ? usualRules : { ringsAway, ringsInWrapUp, mostTexts };
}

import type { AgentDisplayState } from '../distribute/candidates.ts';
import { type AgentFacts, type PhoneFacts, type Presence, reasonCodes } from '../distribute/eligibility.ts';
import { type IdleMember, longerIdle } from '../distribute/longest-idle.ts';
import type {
  ExchangeSettings,
  NumberItem,
  PersonItem,
  PhoneItem,
  QueueItem,
  VoicemailBoxItem,
} from '../model/configuration.ts';
import type { Destination } from '../model/destination.ts';
import type { Effect, ReleaseCause } from './effects.ts';
import { type HeapNode, IndexedHeap } from './heap.ts';
import type { Detail, StoryRecord } from './records.ts';

/** Timers of one instant fire in this order: releases first, then overflows (docs/definitions.md). */
export const timerClass = { wrapUp: 0, rest: 0, ring: 0, message: 0, maxWait: 1 } as const;

export type TimerKind = keyof typeof timerClass;

/** An entry of the timer heap. `order` is the count of timers set before it, so that ties are total. */
export interface Timer extends HeapNode {
  at: number;
  order: number;
  kind: TimerKind;
  owner: Agent | Call;
}

export function timerBefore(one: Timer, other: Timer): boolean {
  if (one.at !== other.at) return one.at < other.at;
  const byClass = timerClass[one.kind] - timerClass[other.kind];
  if (byClass !== 0) return byClass < 0;
  return one.order < other.order;
}

export interface Phone {
  item: PhoneItem;
  registration: 'registered' | 'unregistered' | 'refused';
  since: number;
  /** Why it is refused or unregistered, as the registrar said. */
  why: string;
  address: string | null;
}

/** An agent's place in one queue; a node of that queue's idle heap while the agent is eligible. */
export class Membership implements HeapNode, IdleMember {
  heapIndex = -1;
  readonly agent: Agent;
  readonly queue: QueueState;
  readonly order: number;
  readonly personId: string;

  constructor(agent: Agent, queue: QueueState, order: number) {
    this.agent = agent;
    this.queue = queue;
    this.order = order;
    this.personId = agent.person.id;
  }

  get idleSince(): number {
    return this.agent.idleSince;
  }
}

/** A person as the exchange sees them. Invariant: `calls.length <= person.callLimit` unless it was lowered. */
export class Agent implements AgentFacts {
  person: PersonItem;
  /** No longer in the set-up; kept until the last call is over. */
  retired = false;
  presence: Presence = 'signedOut';
  awayReason: string | null = null;
  presenceSince = 0;
  /** Latest of sign-in, return from away, end of the last call, end of wrap-up. 0 when never signed in. */
  idleSince = 0;
  phone: PhoneFacts = { state: 'none' };
  phones: Phone[] = [];
  /** The call that rings this agent, null when none does. */
  ringing: Call | null = null;
  /** Calls this agent is connected to, in the order they were answered; at most one is not held. */
  calls: Call[] = [];
  talkingSince = 0;
  wrapUpUntil = 0;
  wrapUpSince = 0;
  wrapUpTimer: Timer | null = null;
  restsUntil = 0;
  restTimer: Timer | null = null;
  /** Unanswered offers in a row. */
  misses = 0;
  memberships: Membership[] = [];
  /** Index into reasonCodes of the first reason against, -1 when eligible; counted in every queue. */
  firstReason = 0;

  constructor(person: PersonItem) {
    this.person = person;
  }

  get ringingCallId(): string | null {
    return this.ringing === null ? null : this.ringing.id;
  }
  get callCount(): number {
    return this.calls.length;
  }
  get callLimit(): number {
    return this.person.callLimit;
  }
}

export type LegState = 'ringing' | 'connected' | 'held';

export interface Leg {
  /** `call.n`, n from 1; the caller's leg is 1. */
  id: string;
  party: 'caller' | 'agent';
  personId: string | null;
  phoneId: string | null;
  state: LegState;
  since: number;
}

/** The legs that hear each other. */
export interface Bridge {
  id: string;
  legs: string[];
}

export type CallStage = 'routing' | 'waiting' | 'ringing' | 'talking' | 'voicemail' | 'ended';

/** A call in progress. A node of its queue's heap of callers while it waits. */
export class Call implements HeapNode {
  heapIndex = -1;
  readonly id: string;
  readonly to: string;
  readonly from: string;
  readonly callerName: string | null;
  readonly priority: number;
  readonly arrivedAt: number;
  readonly standIn: boolean;
  numberId: string | null = null;
  stage: CallStage = 'routing';
  stageSince: number;
  /** Steps taken without the caller doing anything. */
  steps = 0;
  fallback: Destination = { kind: 'end' };
  lastDestination: Destination | null = null;
  legs: Leg[] = [];
  legCount = 1;
  bridge: Bridge | null = null;
  bridgeCount = 0;
  /** The queue it waits in or is offered from, null outside queues. Kept while an agent of it talks. */
  queue: QueueState | null = null;
  lastQueueId: string | null = null;
  /** When it entered that queue; its place in the order of callers. */
  enteredAt = 0;
  maxWaitTimer: Timer | null = null;
  /** The wait ran out while a phone was ringing: it goes on when that offer fails. */
  overdue = false;
  /** Agents who were offered this call in this queue and did not take it. */
  tried: string[] = [];
  offers = 0;
  ringingAgent: Agent | null = null;
  ringTimer: Timer | null = null;
  talkingAgent: Agent | null = null;
  answeredAt: number | null = null;
  voicemailBoxId: string | null = null;
  /** When the greeting of the voicemail box ends. */
  messageFrom = 0;
  messageTimer: Timer | null = null;

  constructor(
    id: string,
    to: string,
    from: string,
    callerName: string | null,
    priority: number,
    at: number,
    standIn: boolean,
  ) {
    this.id = id;
    this.to = to;
    this.from = from;
    this.callerName = callerName;
    this.priority = priority;
    this.arrivedAt = at;
    this.stageSince = at;
    this.standIn = standIn;
  }
}

/** Larger priority first, then time of entering the queue, then id. */
export function callBefore(one: Call, other: Call): boolean {
  if (one.priority !== other.priority) return one.priority > other.priority;
  if (one.enteredAt !== other.enteredAt) return one.enteredAt < other.enteredAt;
  return one.id < other.id;
}

/** A queue at work. Invariant: after every event, no caller waits while a member is idle. */
export class QueueState {
  item: QueueItem;
  retired = false;
  members: Membership[] = [];
  /** Eligible members, longest idle first. */
  readonly idle = new IndexedHeap<Membership>(longerIdle);
  /** Callers waiting and not being offered. */
  readonly waiting = new IndexedHeap<Call>(callBefore);
  /** Callers being offered to an agent; they count as waiting for the limits. */
  offering = 0;
  /** Members not signed out. */
  signedIn = 0;
  /** Members by first reason against, in the order of reasonCodes. */
  readonly reasonCounts: number[] = reasonCodes.map(() => 0);

  constructor(item: QueueItem) {
    this.item = item;
  }
}

export interface Output {
  detail: Detail;
  effects: Effect[];
  records: StoryRecord[];
}

/** Everything the exchange knows. Mutable inside, for speed; hosts get snapshots. */
export interface State {
  /** Engine time: the largest `at` seen (UTC milliseconds). */
  now: number;
  /** `seq` of the last event handled. */
  seq: number;
  settings: ExchangeSettings;
  agents: Map<string, Agent>;
  phones: Map<string, Phone>;
  queues: Map<string, QueueState>;
  numbers: Map<string, NumberItem>;
  /** By E.164, derived from `numbers`. */
  numberByDigits: Map<string, NumberItem>;
  /** Extension to its destination, derived. */
  extensions: Map<string, Destination>;
  boxes: Map<string, VoicemailBoxItem>;
  calls: Map<string, Call>;
  timers: IndexedHeap<Timer>;
  timerCount: number;
  /** What is still to be done within the event at hand, first in first out; empty between events. */
  todo: Todo[];
  out: Output;
}

/** A call to send on; a call that waits and wants an agent; an agent who may be free for a caller. */
export type Todo = { send: Call; to: Destination } | Call | Agent;

export function setTimer(state: State, kind: TimerKind, owner: Agent | Call, at: number): Timer {
  const timer: Timer = { at, order: state.timerCount++, kind, owner, heapIndex: -1 };
  state.timers.push(timer);
  return timer;
}

export function clearTimer(state: State, timer: Timer | null): null {
  if (timer !== null) state.timers.remove(timer);
  return null;
}

/** The one word for what an agent does now; calls count before presence. */
export function displayState(agent: Agent, now: number): { state: AgentDisplayState; since: number } {
  if (agent.calls.length > 0) return { state: 'talking', since: agent.talkingSince };
  if (agent.ringing !== null) return { state: 'ringing', since: agent.ringing.stageSince };
  if (agent.presence === 'signedOut') return { state: 'signedOut', since: agent.presenceSince };
  if (agent.wrapUpUntil > now) return { state: 'wrappingUp', since: agent.wrapUpSince };
  if (agent.presence === 'away') return { state: 'away', since: agent.presenceSince };
  return { state: 'available', since: agent.idleSince };
}

export function releaseLeg(state: State, call: Call, leg: Leg, cause: ReleaseCause): void {
  state.out.effects.push({ kind: 'release', callId: call.id, leg: leg.id, phoneId: leg.phoneId, cause });
}

import type { AgentDisplayState } from '../distribute/candidates.ts';
import {
  type AgentFacts,
  answersByItself,
  type PhoneFacts,
  type Presence,
  type Reason,
  reasonCodes,
  skillGaps,
  skillTooLowIndex,
} from '../distribute/eligibility.ts';
import { type IdleMember, longerIdle } from '../distribute/longest-idle.ts';
import type {
  CampaignItem,
  ExchangeSettings,
  FaxBoxItem,
  NumberItem,
  OutsideNumberItem,
  PersonItem,
  PhoneItem,
  QueueItem,
  RoomItem,
  TrunkItem,
  VoicemailBoxItem,
} from '../model/configuration.ts';
import type { DialPlan } from '../dialling/rules.ts';
import type { Destination } from '../model/destination.ts';
import type { DayTally } from '../outbound/pacing.ts';
import type { Bridge, CallStage, Chain, Leg, Outward } from './call-parts.ts';
import type { Direction, Effect, Way } from './effects.ts';
import type { LeasedContact, RecordFacts } from './events.ts';
import { type HeapNode, IndexedHeap } from './heap.ts';
import type { Detail, StoryRecord } from './records.ts';
import type { TimerOf } from './timers.ts';

export type Timer = TimerOf<Agent | Call | Campaign>;

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

/** A phone of a person. Only kinds that register have a registration that ever changes. */
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
  /** Counted in `queue.idleAutomatic`. */
  counted = false;
  readonly agent: Agent;
  readonly queue: QueueState;
  readonly order: number;
  readonly personId: string;
  /** Skills of which the queue asks for more. */
  gaps: Reason[] = [];
  /** As counted in the queue: the agent's first reason against, or a gap; -1 when eligible. */
  firstReason = -1;

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

  reasonNow(): number {
    if (this.agent.firstReason >= 0) return this.agent.firstReason;
    return this.gaps.length > 0 ? skillTooLowIndex : -1;
  }

  get idleSince(): number {
    return this.agent.idleSince;
  }
  get callCount(): number {
    return this.agent.calls.length;
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
  /** In ring order. */
  phones: Phone[] = [];
  /** The one of them that alone may ring; null for the first that can be reached. */
  chosenPhoneId: string | null = null;
  /** A line to their outside number, accepted and held open. */
  line: Call | null = null;
  /** The contact's call for which this agent is kept free. */
  keptFor: Call | null = null;
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
  /** Index into reasonCodes of the first reason against in every queue, -1 when there is none. */
  firstReason = 0;

  constructor(person: PersonItem) {
    this.person = person;
  }

  get ringingCallId(): string | null {
    return this.ringing === null ? null : this.ringing.id;
  }
  get keptForCallId(): string | null {
    return this.keptFor === null ? null : this.keptFor.id;
  }
  /** Whether a call can be put through without the agent lifting anything. */
  get automatic(): boolean {
    return answersByItself(this.phone);
  }
  get callCount(): number {
    return this.calls.length;
  }
  get callLimit(): number {
    return this.person.callLimit;
  }
}

/** What begins a call. */
export interface CallStart {
  id: string;
  direction: Direction;
  to: string;
  from: string;
  callerName: string | null;
  priority: number;
  at: number;
  standIn: boolean;
  record: RecordFacts | null;
  campaign: Campaign | null;
  contact: LeasedContact | null;
}

/** A call in progress. A node of its queue's heap of callers, or of answered contacts, while it waits. */
export class Call implements HeapNode {
  heapIndex = -1;
  readonly id: string;
  readonly direction: Direction;
  readonly to: string;
  readonly from: string;
  readonly callerName: string | null;
  readonly priority: number;
  readonly arrivedAt: number;
  readonly standIn: boolean;
  readonly record: RecordFacts | null;
  readonly campaign: Campaign | null;
  readonly contact: LeasedContact | null;
  numberId: string | null = null;
  sourceId: string | null = null;
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
  /** Somebody picks it up who was not chosen for it: when they do not lift after all, nothing is held against them. */
  pickedUp = false;
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
  /** Runs while a phone rings: an agent's, or the contact's. */
  ringTimer: Timer | null = null;
  talkingAgent: Agent | null = null;
  /** The colleague whom the one who talks rings, or tells, before the caller is theirs. The caller is held meanwhile. */
  announcedTo: Agent | null = null;
  /** Launched, and not yet known to be a person, a machine or nobody. */
  inAir = false;
  /** An agent kept free until it is known whether the contact answers. */
  keptAgent: Agent | null = null;
  /** First answered by an agent, a room or outside. */
  answeredAt: number | null = null;
  /** Talked in all with agents who handed it over, and the last of them. */
  talkedMs = 0;
  handedOverBy: string | null = null;
  /** What was talked over lines of ours on legs that have left. */
  ways: Way[] = [];
  /** Whom a call straight to a person is meant for, what they set for when nobody lifts, and what of it is left. */
  chain: Chain | null = null;
  /** When the contact lifted, and when their greeting was over. */
  liftedAt: number | null = null;
  greetedAt: number | null = null;
  /** The instant by which an agent must have the contact. */
  connectByTimer: Timer | null = null;
  /** Somebody answered and no agent came in time. */
  abandoned = false;
  voicemailBoxId: string | null = null;
  /** When the greeting of the voicemail box ends. */
  messageFrom = 0;
  messageTimer: Timer | null = null;
  /** On its way out, while it is. */
  outward: Outward | null = null;
  /** The room it is in, or before; what was typed at its door, and how often wrongly. */
  roomId: string | null = null;
  keys = '';
  keyTries = 0;

  constructor(start: CallStart) {
    this.id = start.id;
    this.direction = start.direction;
    this.to = start.to;
    this.from = start.from;
    this.callerName = start.callerName;
    this.priority = start.priority;
    this.arrivedAt = start.at;
    this.stageSince = start.at;
    this.standIn = start.standIn;
    this.record = start.record;
    this.campaign = start.campaign;
    this.contact = start.contact;
  }
}

/** A campaign at work. Contacts in `buffer` are leased from the host and not called yet. */
export class Campaign {
  item: CampaignItem;
  buffer: LeasedContact[] = [];
  /** The host was asked for contacts and has not answered. */
  asked = false;
  /** When to ask again, after the host had none; null with no timer means: only when contacts change. */
  askTimer: Timer | null = null;
  /** The host has none left, until contacts change. */
  exhausted = false;
  /** Calls in the air. */
  inAir = 0;
  /** By local day, oldest first, 30 days at most. */
  tallies: DayTally[] = [];

  constructor(item: CampaignItem) {
    this.item = item;
  }
}

/** Larger priority first, then time of entering the queue, then id. */
export function callBefore(one: Call, other: Call): boolean {
  if (one.priority !== other.priority) return one.priority > other.priority;
  if (one.enteredAt !== other.enteredAt) return one.enteredAt < other.enteredAt;
  return one.id < other.id;
}

/**
 * A queue at work. Invariant: after every event, no caller waits while a member is idle, and no answered contact waits
 * while a member is idle whose phone answers by itself.
 */
export class QueueState {
  item: QueueItem;
  retired = false;
  members: Membership[] = [];
  /** Eligible members, longest idle first. */
  readonly idle = new IndexedHeap<Membership>(longerIdle);
  /** Callers waiting and not being offered. */
  readonly waiting = new IndexedHeap<Call>(callBefore);
  /** Contacts of campaigns who answered; they have two seconds, and come before callers. */
  readonly answered = new IndexedHeap<Call>(callBefore);
  /** Idle members whose phone answers by itself: those a campaign can count on. */
  idleAutomatic = 0;
  /** Calls in the air of the campaigns of this queue: without, and with, an agent kept for them. */
  inAir = 0;
  keeping = 0;
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
  trunks: Map<string, Trunk>;
  outsideNumbers: Map<string, OutsideNumberItem>;
  rooms: Map<string, RoomItem>;
  faxBoxes: Map<string, FaxBoxItem>;
  dialPlan: DialPlan;
  campaigns: Map<string, Campaign>;
  /** Numbers opted out lately and when, so that a contact leased just before is still refused. */
  optedOut: Map<string, number>;
  timers: IndexedHeap<Timer>;
  /** Timers ever set; the `order` of the next. */
  timerCount: number;
  /** Agents not signed out. */
  signedIn: number;
  /** What is still to be done within the event at hand, first in first out; empty between events. */
  todo: Todo[];
  /** Whose timer or turn it is within the event at hand, so that a fault can name it; null between events. */
  atHand: Timer['owner'] | null;
  out: Output;
}

/** A call to send on; a call that waits and wants an agent; an agent who may be free for a caller. */
export type Todo = { send: Call; to: Destination; inChain?: true } | Call | Agent;

/** The one word for what an agent does now; calls count before presence. */
export function displayState(agent: Agent, now: number): { state: AgentDisplayState; since: number } {
  if (agent.calls.length > 0) return { state: 'talking', since: agent.talkingSince };
  if (agent.ringing !== null) return { state: 'ringing', since: agent.ringing.stageSince };
  if (agent.presence === 'signedOut') return { state: 'signedOut', since: agent.presenceSince };
  if (agent.wrapUpUntil > now) return { state: 'wrappingUp', since: agent.wrapUpSince };
  if (agent.presence === 'away') return { state: 'away', since: agent.presenceSince };
  return { state: 'available', since: agent.idleSince };
}

import type { Presence } from '../distribute/eligibility.ts';
import type {
  ExchangeSettings,
  NumberItem,
  PersonItem,
  PhoneItem,
  QueueItem,
  VoicemailBoxItem,
} from '../model/configuration.ts';
import type { Destination } from '../model/destination.ts';
import { refreshPhoneFacts } from './agents.ts';
import { firstReasonIndex } from '../distribute/eligibility.ts';
import { deriveRoutes } from './configuration.ts';
import {
  Agent,
  type Bridge,
  Call,
  type CallStage,
  type Leg,
  Membership,
  QueueState,
  type State,
  type Timer,
  type TimerKind,
} from './state.ts';

/** A timer as data; its owner is the entity it stands with. */
interface SavedTimer {
  at: number;
  order: number;
}

interface SavedAgent {
  person: PersonItem;
  retired: boolean;
  presence: Presence;
  awayReason: string | null;
  presenceSince: number;
  idleSince: number;
  calls: string[];
  talkingSince: number;
  wrapUpSince: number;
  wrapUpTimer: SavedTimer | null;
  restTimer: SavedTimer | null;
  misses: number;
}

interface SavedPhone {
  item: PhoneItem;
  registration: 'registered' | 'unregistered' | 'refused';
  since: number;
  why: string;
  address: string | null;
}

interface SavedCall {
  id: string;
  to: string;
  from: string;
  callerName: string | null;
  priority: number;
  arrivedAt: number;
  standIn: boolean;
  numberId: string | null;
  stage: CallStage;
  stageSince: number;
  steps: number;
  fallback: Destination;
  lastDestination: Destination | null;
  legs: Leg[];
  legCount: number;
  bridge: Bridge | null;
  bridgeCount: number;
  queueId: string | null;
  lastQueueId: string | null;
  enteredAt: number;
  overdue: boolean;
  tried: string[];
  offers: number;
  ringingAgent: string | null;
  talkingAgent: string | null;
  answeredAt: number | null;
  voicemailBoxId: string | null;
  messageFrom: number;
  maxWaitTimer: SavedTimer | null;
  ringTimer: SavedTimer | null;
  messageTimer: SavedTimer | null;
}

/** The whole state as data. Heaps, indexes and counts are left out: they follow from the rest. */
export interface ExchangeSnapshot {
  now: number;
  seq: number;
  timerCount: number;
  settings: ExchangeSettings;
  agents: SavedAgent[];
  phones: SavedPhone[];
  queues: { item: QueueItem; retired: boolean }[];
  numbers: NumberItem[];
  boxes: VoicemailBoxItem[];
  calls: SavedCall[];
}

export function takeSnapshot(state: State): ExchangeSnapshot {
  return {
    now: state.now,
    seq: state.seq,
    timerCount: state.timerCount,
    settings: state.settings,
    agents: [...state.agents.values()].map(saveAgent),
    phones: [...state.phones.values()].map((phone) => ({ ...phone })),
    queues: queuesAtWork(state).map(({ item, retired }) => ({ item, retired })),
    numbers: [...state.numbers.values()],
    boxes: [...state.boxes.values()],
    calls: [...state.calls.values()].map(saveCall),
  };
}

/** Queues of the set-up, and retired ones that still have a call. */
function queuesAtWork(state: State): QueueState[] {
  const queues = new Set(state.queues.values());
  for (const call of state.calls.values()) if (call.queue !== null) queues.add(call.queue);
  return [...queues];
}

function saveTimer(timer: Timer | null): SavedTimer | null {
  return timer === null ? null : { at: timer.at, order: timer.order };
}

function saveAgent(agent: Agent): SavedAgent {
  return {
    person: agent.person,
    retired: agent.retired,
    presence: agent.presence,
    awayReason: agent.awayReason,
    presenceSince: agent.presenceSince,
    idleSince: agent.idleSince,
    calls: agent.calls.map((call) => call.id),
    talkingSince: agent.talkingSince,
    wrapUpSince: agent.wrapUpSince,
    wrapUpTimer: saveTimer(agent.wrapUpTimer),
    restTimer: saveTimer(agent.restTimer),
    misses: agent.misses,
  };
}

function saveCall(call: Call): SavedCall {
  return {
    id: call.id,
    to: call.to,
    from: call.from,
    callerName: call.callerName,
    priority: call.priority,
    arrivedAt: call.arrivedAt,
    standIn: call.standIn,
    numberId: call.numberId,
    stage: call.stage,
    stageSince: call.stageSince,
    steps: call.steps,
    fallback: call.fallback,
    lastDestination: call.lastDestination,
    legs: call.legs.map((leg) => ({ ...leg })),
    legCount: call.legCount,
    bridge: call.bridge === null ? null : { id: call.bridge.id, legs: [...call.bridge.legs] },
    bridgeCount: call.bridgeCount,
    queueId: call.queue === null ? null : call.queue.item.id,
    lastQueueId: call.lastQueueId,
    enteredAt: call.enteredAt,
    overdue: call.overdue,
    tried: [...call.tried],
    offers: call.offers,
    ringingAgent: call.ringingAgent === null ? null : call.ringingAgent.person.id,
    talkingAgent: call.talkingAgent === null ? null : call.talkingAgent.person.id,
    answeredAt: call.answeredAt,
    voicemailBoxId: call.voicemailBoxId,
    messageFrom: call.messageFrom,
    maxWaitTimer: saveTimer(call.maxWaitTimer),
    ringTimer: saveTimer(call.ringTimer),
    messageTimer: saveTimer(call.messageTimer),
  };
}

/** Fills the empty `state` from a snapshot. */
export function restoreState(snapshot: ExchangeSnapshot, state: State): State {
  state.now = snapshot.now;
  state.seq = snapshot.seq;
  state.timerCount = snapshot.timerCount;
  state.settings = snapshot.settings;
  for (const box of snapshot.boxes) state.boxes.set(box.id, box);
  for (const number of snapshot.numbers) state.numbers.set(number.id, number);
  for (const saved of snapshot.agents) state.agents.set(saved.person.id, restoreAgent(state, saved));
  for (const saved of snapshot.phones) {
    const phone = { ...saved };
    state.phones.set(phone.item.id, phone);
    state.agents.get(phone.item.personId)?.phones.push(phone);
  }
  const queues = new Map(
    snapshot.queues.map(({ item, retired }) => {
      const queue = new QueueState(item);
      queue.retired = retired;
      if (!retired) state.queues.set(item.id, queue);
      return [item.id, queue] as const;
    }),
  );
  for (const saved of snapshot.calls) restoreCall(state, saved, queues);
  for (const saved of snapshot.agents) {
    const agent = state.agents.get(saved.person.id)!;
    agent.calls = saved.calls.map((id) => state.calls.get(id)!);
    refreshPhoneFacts(agent);
    agent.firstReason = firstReasonIndex(agent, state.now);
  }
  for (const queue of state.queues.values()) restoreMembers(state, queue);
  deriveRoutes(state);
  return state;
}

function restoreTimer<Owner extends Agent | Call>(
  state: State,
  kind: TimerKind,
  owner: Owner,
  saved: SavedTimer | null,
): Timer | null {
  if (saved === null) return null;
  const timer: Timer = { ...saved, kind, owner, heapIndex: -1 };
  state.timers.push(timer);
  return timer;
}

function restoreAgent(state: State, saved: SavedAgent): Agent {
  const agent = new Agent(saved.person);
  agent.retired = saved.retired;
  agent.presence = saved.presence;
  agent.awayReason = saved.awayReason;
  agent.presenceSince = saved.presenceSince;
  agent.idleSince = saved.idleSince;
  agent.talkingSince = saved.talkingSince;
  agent.wrapUpSince = saved.wrapUpSince;
  agent.wrapUpTimer = restoreTimer(state, 'wrapUp', agent, saved.wrapUpTimer);
  agent.wrapUpUntil = saved.wrapUpTimer?.at ?? 0;
  agent.restTimer = restoreTimer(state, 'rest', agent, saved.restTimer);
  agent.restsUntil = saved.restTimer?.at ?? 0;
  agent.misses = saved.misses;
  return agent;
}

function restoreCall(state: State, saved: SavedCall, queues: Map<string, QueueState>): void {
  const call = new Call(
    saved.id,
    saved.to,
    saved.from,
    saved.callerName,
    saved.priority,
    saved.arrivedAt,
    saved.standIn,
  );
  state.calls.set(call.id, call);
  call.numberId = saved.numberId;
  call.stage = saved.stage;
  call.stageSince = saved.stageSince;
  call.steps = saved.steps;
  call.fallback = saved.fallback;
  call.lastDestination = saved.lastDestination;
  call.legs = saved.legs.map((leg) => ({ ...leg }));
  call.legCount = saved.legCount;
  call.bridge = saved.bridge === null ? null : { id: saved.bridge.id, legs: [...saved.bridge.legs] };
  call.bridgeCount = saved.bridgeCount;
  call.queue = saved.queueId === null ? null : (queues.get(saved.queueId) ?? null);
  call.lastQueueId = saved.lastQueueId;
  call.enteredAt = saved.enteredAt;
  call.overdue = saved.overdue;
  call.tried = [...saved.tried];
  call.offers = saved.offers;
  call.answeredAt = saved.answeredAt;
  call.voicemailBoxId = saved.voicemailBoxId;
  call.messageFrom = saved.messageFrom;
  call.maxWaitTimer = restoreTimer(state, 'maxWait', call, saved.maxWaitTimer);
  call.ringTimer = restoreTimer(state, 'ring', call, saved.ringTimer);
  call.messageTimer = restoreTimer(state, 'message', call, saved.messageTimer);
  call.talkingAgent = saved.talkingAgent === null ? null : state.agents.get(saved.talkingAgent)!;
  call.ringingAgent = saved.ringingAgent === null ? null : state.agents.get(saved.ringingAgent)!;
  if (call.ringingAgent !== null) call.ringingAgent.ringing = call;
  if (call.queue !== null && call.stage === 'waiting') call.queue.waiting.push(call);
  if (call.queue !== null && call.stage === 'ringing') call.queue.offering++;
}

function restoreMembers(state: State, queue: QueueState): void {
  queue.item.members.forEach((personId, order) => {
    const agent = state.agents.get(personId);
    if (agent === undefined || agent.retired) return;
    const membership = new Membership(agent, queue, order);
    queue.members.push(membership);
    agent.memberships.push(membership);
    if (agent.presence !== 'signedOut') queue.signedIn++;
    if (agent.firstReason >= 0) queue.reasonCounts[agent.firstReason]!++;
    else queue.idle.push(membership);
  });
}

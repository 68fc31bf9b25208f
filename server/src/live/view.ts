import { phoneLinesOf } from '@night-bell/core/exchange/offers/phone-lines';
import type { AgentDisplayState, ReachedBy } from '@night-bell/core/distribute/candidates';
import { displayState } from '@night-bell/core/exchange/agents/display-state';
import type { MayPause } from '@night-bell/core/model/recording';
import { reachedBy, ringingPhone } from '@night-bell/core/exchange/agents/phones';
import type { Call } from '@night-bell/core/exchange/calls/call';
import type { QueueState } from '@night-bell/core/exchange/queues/queue';
import type { State } from '@night-bell/core/exchange/kernel/state';
import { legOf } from '@night-bell/core/exchange/media/leg';
import type { Direction } from '@night-bell/core/story/facts';
import { consultedIn, offerOf } from '@night-bell/core/exchange/calls/resting';
import { localDay } from '@night-bell/core/hours/zone-clock';
import { abandonDays, abandonRate, type Pace, paceOf } from '@night-bell/core/outbound/pacing';
import { type CallStage, stageOf } from './call-stage.ts';

/** An agent as pages show them. */
export interface AgentLive {
  personId: string;
  name: string;
  teamId: string | null;
  state: AgentDisplayState;
  since: number;
  awayReason: string | null;
  wrapUpUntil: number | null;
  backOffUntil: number | null;
  phone: 'registered' | 'unregistered' | 'refused' | 'none' | 'outside';
  /** What would ring, and the one of their phones that was chosen to. */
  reachedBy: ReachedBy | null;
  chosenPhoneId: string | null;
  /** A line to their outside number is open, or being asked for. */
  line: 'open' | 'asked' | null;
  phoneSince: number | null;
  phoneWhy: string;
  phoneAddress: string | null;
  /** Whether a caller could be offered to this agent now. */
  eligible: boolean;
  callIds: string[];
}

export interface QueueLive {
  queueId: string;
  waiting: number;
  offering: number;
  longestSince: number | null;
  signedIn: number;
  idle: number;
  /** Of those waiting, who are called back. */
  callBacks: number;
  /** Who would be rung for a caller who came now, in order; no more than so many. */
  next: string[];
}

export interface TrunkLive {
  trunkId: string;
  inUse: number;
}

export interface CampaignLive {
  campaignId: string;
  inAir: number;
  /** Contacts in the exchange's hands, to be called next. */
  buffered: number;
  exhausted: boolean;
  today: { answered: number; abandoned: number };
  /** Abandoned of those who answered, today and over 30 days. */
  rateToday: number;
  rate: number;
  pace: Pace;
  /** Agents of its queue who could take a call at once. */
  free: number;
}

export interface CallLive {
  /** What a phone that rings for it shows, line by line; empty while none does. */
  shows: string[];
  callId: string;
  direction: Direction;
  to: string;
  from: string;
  callerName: string | null;
  stage: CallStage;
  since: number;
  arrivedAt: number;
  answeredAt: number | null;
  numberId: string | null;
  queueId: string | null;
  ringGroupId: string | null;
  campaignId: string | null;
  contactId: string | null;
  recordId: string | null;
  sourceId: string | null;
  trunkId: string | null;
  /** Who is rung or talks. */
  personId: string | null;
  /** The agent's leg that rings or talks, and its phone. */
  leg: string | null;
  phoneId: string | null;
  /** The colleague who is told of the caller before the call is theirs; they ring first. */
  consulted: {
    personId: string;
    name: string;
    /** Who tells them. */
    byName: string;
    rings: boolean;
    since: number;
    leg: string;
    phoneId: string | null;
  } | null;
  offers: number;
  /** Of the talk that is recorded now. */
  recording: { state: 'on' | 'paused' | 'held'; mayPause: MayPause } | null;
}

/** Whether this person is rung for the call, talks, or is told of it. */
export function isOf(call: CallLive, personId: string): boolean {
  return call.personId === personId || call.consulted?.personId === personId;
}

export interface LiveView {
  at: number;
  agents: AgentLive[];
  queues: QueueLive[];
  calls: CallLive[];
  trunks: TrunkLive[];
  campaigns: CampaignLive[];
}

export function agentLive(state: Readonly<State>, personId: string): AgentLive | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return null;
  const shown = displayState(agent, state.now);
  const phone = agent.phones.find((each) => each.registration === 'registered') ?? agent.phones[0];
  const ringing = agent.ringing === null || agent.ringing.direction === 'line' ? [] : [agent.ringing];
  const current = [...agent.calls, ...ringing];
  return {
    personId,
    name: agent.person.name,
    teamId: agent.person.teamId,
    state: shown.state,
    since: shown.since,
    awayReason: agent.awayReason,
    wrapUpUntil: agent.wrapUpUntil === 0 ? null : agent.wrapUpUntil,
    backOffUntil: agent.backOffUntil === 0 ? null : agent.backOffUntil,
    phone: agent.phone.state,
    reachedBy: agent.persistentLine !== null ? 'openLine' : reachedBy(ringingPhone(state as State, agent)),
    chosenPhoneId: agent.chosenPhoneId,
    line: agent.persistentLine !== null ? 'open' : agent.ringing?.direction === 'line' ? 'asked' : null,
    phoneSince: phone?.since ?? null,
    phoneWhy: phone?.why ?? '',
    phoneAddress: phone?.address ?? null,
    eligible: agent.firstReason < 0,
    callIds: current.map((call) => call.id),
  };
}

/** Who would be rung for a caller who came now, in order: the first dozen, which is what the floor shows. */
export const nextIn = (queue: QueueState): string[] =>
  first(queue.idle.inOrder(0), namedNext).map(({ personId }) => personId);

export function queueLive(
  state: Readonly<State>,
  queueId: string,
  next: (queue: QueueState) => string[] = nextIn,
): QueueLive | null {
  const queue = state.queues.get(queueId);
  if (queue === undefined) return null;
  const waiting = [...queue.waitingList.values()];
  return {
    queueId,
    waiting: waiting.length,
    offering: queue.offering,
    longestSince: waiting.length === 0 ? null : Math.min(...waiting.map((call) => call.enteredAt)),
    signedIn: queue.signedIn,
    idle: queue.idle.sizeAt(0),
    callBacks: waiting.filter((call) => call.callBack !== null).length,
    next: next(queue),
  };
}

const namedNext = 12;

function first<Value>(of: Iterable<Value>, count: number): Value[] {
  const taken: Value[] = [];
  for (const value of of) {
    if (taken.length >= count) break;
    taken.push(value);
  }
  return taken;
}

export function callLive(state: Readonly<State>, callId: string): CallLive | null {
  const call = state.calls.get(callId);
  if (call === undefined) return null;
  // Who dialled is the caller of their own call.
  const leg = call.legs.find(
    (each) => each.party === 'agent' || (call.direction === 'dialled' && each.party === 'caller'),
  );
  return {
    callId,
    shows: call.activity.kind === 'offered' ? phoneLinesOf(state, call) : [],
    direction: call.direction,
    to: call.to,
    from: call.from,
    callerName: call.callerName,
    stage: stageOf(call),
    since: call.activity.since,
    arrivedAt: call.arrivedAt,
    answeredAt: call.answeredAt,
    numberId: call.numberId,
    queueId: call.lastQueueId,
    ringGroupId: call.lastGroupId,
    campaignId: call.campaign?.item.id ?? null,
    contactId: call.contact?.contactId ?? null,
    recordId: call.record?.id ?? null,
    sourceId: call.sourceId,
    trunkId: call.legs[0]?.trunkId ?? null,
    leg: leg?.id ?? null,
    phoneId: leg?.phoneId ?? null,
    personId: (call.talkingAgent ?? offerOf(call)?.parts[0]?.agent)?.person.id ?? null,
    consulted: announcedLive(call),
    offers: call.offers,
    recording: recordingLive(call),
  };
}

function recordingLive({ recording }: Call): CallLive['recording'] {
  if (recording === null) return null;
  const { pausedBy, mayPause } = recording;
  return { state: pausedBy === null ? 'on' : pausedBy === 'hand' ? 'paused' : 'held', mayPause };
}

function announcedLive(call: Call): CallLive['consulted'] {
  const colleague = consultedIn(call);
  if (colleague === null) return null;
  const leg = legOf(call, colleague);
  return {
    personId: colleague.person.id,
    name: colleague.person.name,
    byName: call.talkingAgent?.person.name ?? '',
    rings: leg.state !== 'connected' && leg.state !== 'held',
    since: leg.since,
    leg: leg.id,
    phoneId: leg.phoneId,
  };
}

export function trunkLive(state: Readonly<State>, trunkId: string): TrunkLive | null {
  const trunk = state.trunks.get(trunkId);
  return trunk === undefined ? null : { trunkId, inUse: trunk.inUse };
}

export function campaignLive(state: Readonly<State>, campaignId: string): CampaignLive | null {
  const campaign = state.campaigns.get(campaignId);
  if (campaign === undefined) return null;
  const today = localDay(state.settings.clock, state.now);
  const { tallies, item } = campaign;
  const tally = tallies.find((each) => each.day === today);
  return {
    campaignId,
    inAir: campaign.inAir,
    buffered: campaign.buffer.length,
    exhausted: campaign.exhausted,
    today: { answered: tally?.answered ?? 0, abandoned: tally?.abandoned ?? 0 },
    rateToday: abandonRate(tallies, today, 1),
    rate: abandonRate(tallies, today, abandonDays),
    pace: paceOf(item.ratio, item.abandonLimit, tallies, today),
    free: state.queues.get(item.queueId)?.idleAutoAnswering ?? 0,
  };
}

/** @param agents whom it shows */
export function liveView(state: Readonly<State>, agents: Iterable<string> = state.agents.keys()): LiveView {
  const present = <T>(each: T | null): each is T => each !== null;
  return {
    at: state.now,
    agents: [...agents].map((id) => agentLive(state, id)).filter(present),
    queues: [...state.queues.keys()].map((id) => queueLive(state, id)).filter(present),
    calls: [...state.calls.keys()].map((id) => callLive(state, id)).filter(present),
    trunks: [...state.trunks.keys()].map((id) => trunkLive(state, id)).filter(present),
    campaigns: [...state.campaigns.keys()].map((id) => campaignLive(state, id)).filter(present),
  };
}

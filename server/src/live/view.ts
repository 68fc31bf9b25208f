import { type AgentDisplayState } from '@night-bell/core/distribute/candidates';
import { displayState, type State } from '@night-bell/core/exchange/state';
import type { CallStage } from '@night-bell/core/exchange/state';

/** An agent as pages show them. */
export interface AgentLive {
  personId: string;
  state: AgentDisplayState;
  since: number;
  awayReason: string | null;
  wrapUpUntil: number | null;
  restsUntil: number | null;
  phone: 'registered' | 'unregistered' | 'refused' | 'none';
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
}

export interface CallLive {
  callId: string;
  to: string;
  from: string;
  callerName: string | null;
  stage: CallStage;
  since: number;
  arrivedAt: number;
  answeredAt: number | null;
  numberId: string | null;
  queueId: string | null;
  /** Who is rung or talks. */
  personId: string | null;
  offers: number;
}

export interface LiveView {
  at: number;
  agents: AgentLive[];
  queues: QueueLive[];
  calls: CallLive[];
}

export function agentLive(state: Readonly<State>, personId: string): AgentLive | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return null;
  const shown = displayState(agent, state.now);
  const phone = agent.phones.find((each) => each.registration === 'registered') ?? agent.phones[0];
  const current = agent.ringing === null ? agent.calls : [...agent.calls, agent.ringing];
  return {
    personId,
    state: shown.state,
    since: shown.since,
    awayReason: agent.awayReason,
    wrapUpUntil: agent.wrapUpUntil === 0 ? null : agent.wrapUpUntil,
    restsUntil: agent.restsUntil === 0 ? null : agent.restsUntil,
    phone: agent.phone.state,
    phoneSince: phone?.since ?? null,
    phoneWhy: phone?.why ?? '',
    phoneAddress: phone?.address ?? null,
    eligible: agent.firstReason < 0,
    callIds: current.map((call) => call.id),
  };
}

export function queueLive(state: Readonly<State>, queueId: string): QueueLive | null {
  const queue = state.queues.get(queueId);
  if (queue === undefined) return null;
  const waiting = queue.waiting.values();
  return {
    queueId,
    waiting: waiting.length,
    offering: queue.offering,
    longestSince: waiting.length === 0 ? null : Math.min(...waiting.map((call) => call.enteredAt)),
    signedIn: queue.signedIn,
    idle: queue.idle.size,
  };
}

export function callLive(state: Readonly<State>, callId: string): CallLive | null {
  const call = state.calls.get(callId);
  if (call === undefined) return null;
  return {
    callId,
    to: call.to,
    from: call.from,
    callerName: call.callerName,
    stage: call.stage,
    since: call.stageSince,
    arrivedAt: call.arrivedAt,
    answeredAt: call.answeredAt,
    numberId: call.numberId,
    queueId: call.lastQueueId,
    personId: (call.talkingAgent ?? call.ringingAgent)?.person.id ?? null,
    offers: call.offers,
  };
}

export function liveView(state: Readonly<State>): LiveView {
  const present = <T>(each: T | null): each is T => each !== null;
  return {
    at: state.now,
    agents: [...state.agents.keys()].map((id) => agentLive(state, id)).filter(present),
    queues: [...state.queues.keys()].map((id) => queueLive(state, id)).filter(present),
    calls: [...state.calls.keys()].map((id) => callLive(state, id)).filter(present),
  };
}

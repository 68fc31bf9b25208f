import { refreshAgent, refreshPhoneFacts } from './agents.ts';
import { agentSideEnded } from './announcing.ts';
import { endCall } from './ending.ts';
import type { ExchangeEvent, LegFailure, Refusal } from './events.ts';
import { askToAccept } from './answering.ts';
import { dialOutside, endRinging } from './ringing.ts';
import type { Leg } from './call-parts.ts';
import { type Agent, Call, type State } from './state.ts';
import { setTimer } from './timers.ts';

/** How long an agent's outside number rings when a line to it is asked for. */
const lineRingSeconds = 30;

/** Dials an agent's outside number, to be accepted with a key and held open between calls. */
export function askLine(state: State, event: ExchangeEvent & { kind: 'lineAsked' }): Refusal | null {
  const agent = state.agents.get(event.personId);
  if (agent === undefined || agent.retired) return 'unknownPerson';
  if (state.calls.has(event.callId)) return 'callExists';
  if (agent.line !== null || agent.ringing !== null) return 'lineOpen';
  const phone = agent.phones.find((each) => each.item.kind === 'outside');
  const trunk = state.trunks.get(phone?.item.trunkId ?? '');
  if (phone === undefined || phone.item.e164 === null || trunk === undefined) return 'noOutsideNumber';
  if (trunk.isFull) return 'trunkFull';
  const call = new Call({
    id: event.callId,
    direction: 'line',
    to: phone.item.e164,
    from: '',
    callerName: null,
    priority: 0,
    at: state.now,
    standIn: false,
    record: null,
    campaign: null,
    contact: null,
  });
  const leg: Leg = {
    id: `${call.id}.1`,
    party: 'agent',
    personId: agent.person.id,
    phoneId: phone.item.id,
    trunkId: null,
    over: null,
    state: 'ringing',
    since: state.now,
  };
  call.legs.push(leg);
  call.stage = 'ringing';
  call.ringingAgent = agent;
  agent.ringing = call;
  call.ringTimer = setTimer(state, 'ring', call, state.now + lineRingSeconds * 1000);
  state.calls.set(call.id, call);
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'lineDialled',
      personId: agent.person.id,
      name: agent.person.name,
      to: call.to,
      trunkName: trunk.item.name,
    });
  }
  dialOutside(state, call, leg, phone, lineRingSeconds);
  refreshAgent(state, agent);
  return null;
}

export function lineLifted(state: State, call: Call, leg: Leg): Refusal | null {
  if (leg.state !== 'ringing') return 'legNotRinging';
  askToAccept(state, call, leg, call.ringingAgent!);
  return null;
}

/** The key was pressed: the line stays open. */
export function holdLine(state: State, call: Call, leg: Leg): void {
  const agent = call.ringingAgent!;
  state.timers.remove(call.ringTimer!);
  call.ringTimer = null;
  call.ringingAgent = null;
  agent.ringing = null;
  agent.line = call;
  call.talkingAgent = agent;
  call.answeredAt = state.now;
  call.stage = 'held';
  call.stageSince = state.now;
  leg.state = 'connected';
  leg.since = state.now;
  state.out.effects.push({ kind: 'play', callId: call.id, leg: leg.id, prompt: 'lineHeld' });
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'lineHeld',
      personId: agent.person.id,
      name: agent.person.name,
    });
  }
  refreshPhoneFacts(state, agent);
  refreshAgent(state, agent);
  state.todo.push(agent);
}

/** Nobody lifted, nobody pressed the key, or the provider could not reach the number. */
export function lineFailed(state: State, call: Call, cause: LegFailure): void {
  const agent = call.ringingAgent!;
  const leg = call.legs[0]!;
  if (leg.state === 'confirming' || cause === 'noAnswer')
    state.out.effects.push({ kind: 'stopRinging', callId: call.id, leg: leg.id, why: 'notAccepted' });
  endRinging(state, call, agent);
  refreshAgent(state, agent);
  state.todo.push(agent);
  endCall(state, call, 'exchange', cause === 'declined' ? 'refused' : cause);
}

/** Closes the agent's line; calls it carries end with it. */
export function closeLine(state: State, agent: Agent, by: 'agent' | 'exchange'): void {
  const asked = agent.ringing;
  if (asked?.direction === 'line') return lineFailed(state, asked, 'noAnswer');
  const line = agent.line;
  if (line === null) return;
  const legId = line.legs[0]!.id;
  for (const call of [...agent.calls]) {
    const leg = call.legs.find((each) => each.over === legId);
    if (leg === undefined) continue;
    agentSideEnded(state, call, leg);
  }
  endCall(state, line, by, 'lineClosed');
}

export function closeLineOf(state: State, personId: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  closeLine(state, agent, 'exchange');
  return null;
}

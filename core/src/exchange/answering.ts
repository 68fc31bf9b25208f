import { reachedBy, refreshAgent } from './agents.ts';
import { endOffer, leaveQueue } from './queueing.ts';
import type { StoryRecord } from './records.ts';
import type { Leg } from './call-parts.ts';
import type { Agent, Call, State } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';

/** The agent has the call: caller and agent hear each other, or, of a caller who is announced, two colleagues. */
export function takeAnswer(state: State, call: Call, leg: Leg, agent: Agent): void {
  const teller = call.announcedTo === null ? null : call.talkingAgent;
  if (call.queue !== null && teller === null) {
    endOffer(call);
    leaveQueue(state, call);
  }
  const rangMs = state.now - leg.since;
  call.ringTimer = clearTimer(state, call.ringTimer);
  call.connectByTimer = clearTimer(state, call.connectByTimer);
  call.ringingAgent = null;
  call.pickedUp = false;
  agent.ringing = null;
  agent.misses = 0;
  for (const other of agent.calls) holdCall(state, agent, other, call.id);
  agent.calls.push(call);
  agent.talkingSince = state.now;
  leg.state = 'connected';
  leg.since = state.now;
  if (teller === null) {
    call.talkingAgent = agent;
    call.answeredAt ??= state.now;
    call.stage = 'talking';
    call.stageSince = state.now;
  }
  connect(state, call, teller === null ? call.legs[0]! : legOf(call, teller), leg);
  if (state.out.detail !== 'none' && teller !== null) {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'told',
      personId: agent.person.id,
      name: agent.person.name,
      byName: teller.person.name,
      rangMs,
    });
  } else if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'answered',
      personId: agent.person.id,
      name: agent.person.name,
      rangMs,
      waitedMs: state.now - (call.greetedAt ?? call.arrivedAt),
      phone: leg.over === null ? reachedBy(state.phones.get(leg.phoneId ?? '')) : 'openLine',
    });
  }
  refreshAgent(state, agent);
  state.todo.push(agent);
}

export function askToAccept(state: State, call: Call, leg: Leg, agent: Agent): void {
  const rangMs = state.now - leg.since;
  leg.state = 'confirming';
  leg.since = state.now;
  clearTimer(state, call.ringTimer);
  call.ringTimer = setTimer(state, 'accept', call, state.now + state.settings.acceptSeconds * 1000);
  state.out.effects.push({ kind: 'play', callId: call.id, leg: leg.id, prompt: 'acceptCall' });
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'askedToAccept',
      personId: agent.person.id,
      name: agent.person.name,
      to: state.phones.get(leg.phoneId ?? '')?.item.e164 ?? '',
      rangMs,
    });
  }
}

/** These two hear each other, and nobody else of the call. */
export function connect(state: State, call: Call, one: Leg, other: Leg): void {
  call.bridge = { id: `${call.id}.b${++call.bridgeCount}`, legs: [one.id, other.id] };
  state.out.effects.push({
    kind: 'connect',
    callId: call.id,
    bridge: call.bridge.id,
    legs: [one.id, other.id],
  });
}

/** The leg of somebody who is in this call. */
export function legOf(call: Call, agent: Agent): Leg {
  return call.legs.find((leg) => leg.party === 'agent' && leg.personId === agent.person.id)!;
}

export function holdCall(state: State, agent: Agent, call: Call, by: string): void {
  const leg = call.legs.find((each) => each.personId === agent.person.id && each.state === 'connected');
  if (leg === undefined) return;
  leg.state = 'held';
  state.out.effects.push({ kind: 'hold', callId: call.id, leg: leg.id });
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'held',
      personId: agent.person.id,
      name: agent.person.name,
      by,
    });
  }
}

/** When the call an agent talked on is over, the one held last goes on. */
export function resumeHeld(state: State, agent: Agent): void {
  const call = agent.calls.at(-1);
  const leg = call?.legs.find((each) => each.personId === agent.person.id && each.state === 'held');
  if (call === undefined || leg === undefined) return;
  leg.state = 'connected';
  state.out.effects.push({ kind: 'resume', callId: call.id, leg: leg.id });
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'resumed',
      personId: agent.person.id,
      name: agent.person.name,
    });
  }
}

/** The caller hears music while a colleague is told of them. */
export function holdCaller(state: State, call: Call): void {
  const caller = call.legs[0]!;
  caller.state = 'held';
  state.out.effects.push({ kind: 'hold', callId: call.id, leg: caller.id });
}

/** The caller hears music no longer. */
export function takeOffHold(state: State, call: Call): void {
  const caller = call.legs[0]!;
  caller.state = 'connected';
  state.out.effects.push({ kind: 'resume', callId: call.id, leg: caller.id });
}

/** The caller who was to be announced is with the one they talked with again. */
export function callerBack(
  state: State,
  call: Call,
  why: (StoryRecord & { kind: 'callerBack' })['why'],
): void {
  const agent = call.talkingAgent!;
  call.announcedTo = null;
  takeOffHold(state, call);
  connect(state, call, call.legs[0]!, legOf(call, agent));
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'callerBack',
      personId: agent.person.id,
      name: agent.person.name,
      why,
    });
  }
}

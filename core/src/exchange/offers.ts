import { beginRest, markAway, refreshAgent, registeredPhone } from './agents.ts';
import type { StopRinging } from './effects.ts';
import type { LegFailure, Refusal } from './events.ts';
import type { NotTaken } from './records.ts';
import { leaveQueue, overflow } from './queueing.ts';
import { type Agent, type Call, type Leg, type State, clearTimer, setTimer } from './state.ts';

/** Rings the agent's first registered phone for `call`. The agent must have one. */
export function ringAgent(state: State, agent: Agent, call: Call, ringSeconds: number): void {
  const phone = registeredPhone(agent);
  if (phone === undefined) throw new Error('ringAgent: choose only agents with a registered phone');
  const leg: Leg = {
    id: `${call.id}.${++call.legCount}`,
    party: 'agent',
    personId: agent.person.id,
    phoneId: phone.item.id,
    state: 'ringing',
    since: state.now,
  };
  call.legs.push(leg);
  call.stage = 'ringing';
  call.stageSince = state.now;
  call.offers++;
  call.ringingAgent = agent;
  agent.ringing = call;
  call.ringTimer = setTimer(state, 'ring', call, state.now + ringSeconds * 1000);
  state.out.effects.push({
    kind: 'ring',
    callId: call.id,
    leg: leg.id,
    phoneId: phone.item.id,
    personId: agent.person.id,
    from: call.from,
    callerName: call.callerName,
    to: call.to,
    queueId: call.queue === null ? null : call.queue.item.id,
    ringSeconds,
  });
  refreshAgent(state, agent);
}

export function answerLeg(state: State, legId: string): Refusal | null {
  const found = findLeg(state, legId);
  if (found === null) return 'unknownLeg';
  const { call, leg } = found;
  const agent = call.ringingAgent;
  if (leg.state !== 'ringing' || agent === null) return 'legNotRinging';
  const queue = call.queue;
  if (queue !== null) {
    queue.offering--;
    leaveQueue(state, call);
  }
  const rangMs = state.now - leg.since;
  call.ringTimer = clearTimer(state, call.ringTimer);
  call.ringingAgent = null;
  agent.ringing = null;
  agent.misses = 0;
  for (const other of agent.calls) holdCall(state, agent, other, call.id);
  agent.calls.push(call);
  agent.talkingSince = state.now;
  call.talkingAgent = agent;
  call.answeredAt = state.now;
  call.stage = 'talking';
  call.stageSince = state.now;
  leg.state = 'connected';
  leg.since = state.now;
  call.bridge = { id: `${call.id}.b${++call.bridgeCount}`, legs: [call.legs[0]!.id, leg.id] };
  const phoneId = leg.phoneId!;
  state.out.effects.push({
    kind: 'connect',
    callId: call.id,
    bridge: call.bridge.id,
    legs: [call.legs[0]!.id, leg.id],
    phoneId,
  });
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'answered',
      personId: agent.person.id,
      name: agent.person.name,
      rangMs,
      waitedMs: state.now - call.arrivedAt,
    });
  }
  refreshAgent(state, agent);
  state.todo.push(agent);
  return null;
}

function holdCall(state: State, agent: Agent, call: Call, by: string): void {
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

export function failLeg(state: State, legId: string, cause: LegFailure): Refusal | null {
  const found = findLeg(state, legId);
  if (found === null) return 'unknownLeg';
  if (found.leg.state !== 'ringing' || found.call.ringingAgent === null) return 'legNotRinging';
  offerFailed(state, found.call, cause);
  return null;
}

export function ringTimedOut(state: State, call: Call): void {
  const leg = ringingLeg(call);
  state.out.effects.push({
    kind: 'stopRinging',
    callId: call.id,
    leg: leg.id,
    phoneId: leg.phoneId!,
    why: 'noAnswer',
  });
  offerFailed(state, call, 'noAnswer');
}

/** Stops an offer because the agent left; the caller goes on to the next. */
export function leaveRinging(
  state: State,
  agent: Agent,
  why: 'signedOut' | 'setAway' | 'personRetired',
): void {
  const call = agent.ringing;
  if (call === null) return;
  stopRinging(state, call, why);
  offerFailed(state, call, why);
}

function stopRinging(state: State, call: Call, why: StopRinging): void {
  const leg = ringingLeg(call);
  state.out.effects.push({ kind: 'stopRinging', callId: call.id, leg: leg.id, phoneId: leg.phoneId!, why });
}

/** The caller hung up while a phone rang: the agent is free again, without rest or blame. */
export function abandonOffer(state: State, call: Call): void {
  const agent = call.ringingAgent;
  if (agent === null) return;
  stopRinging(state, call, 'callerHungUp');
  if (call.queue !== null) call.queue.offering--;
  endRinging(state, call, agent);
  refreshAgent(state, agent);
}

function offerFailed(state: State, call: Call, reason: NotTaken): void {
  const agent = call.ringingAgent!;
  const rangMs = state.now - ringingLeg(call).since;
  endRinging(state, call, agent);
  const setsAway = call.queue !== null && rest(state, agent, reason);
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'notTaken',
      personId: agent.person.id,
      name: agent.person.name,
      reason,
      rangMs,
      restsUntil: agent.restsUntil > state.now ? agent.restsUntil : null,
      setAway: setsAway,
    });
  }
  refreshAgent(state, agent);
  const queue = call.queue;
  if (queue === null) {
    afterDirectRing(state, call, agent);
  } else {
    call.tried.push(agent.person.id);
    queue.offering--;
    call.stage = 'waiting';
    call.stageSince = state.now;
    if (queue.retired) overflow(state, call, 'queueRetired');
    else if (call.overdue) overflow(state, call, 'waitedTooLong');
    else if (queue.signedIn === 0 && queue.item.whenNobody !== null) overflow(state, call, 'nobodySignedIn');
    else {
      queue.waiting.push(call);
      state.todo.push(call);
    }
  }
  state.todo.push(agent);
}

/** The rest after an offer that was not taken. True when it sets the agent away. */
function rest(state: State, agent: Agent, reason: NotTaken): boolean {
  const settings = state.settings;
  switch (reason) {
    case 'noAnswer':
      agent.misses++;
      beginRest(state, agent, settings.restAfterNoAnswerSeconds);
      if (agent.misses < settings.missesBeforeAway) return false;
      agent.misses = 0;
      markAway(state, agent, 'not answering');
      return true;
    case 'declined':
    case 'busy':
    case 'unreachable':
      beginRest(state, agent, settings.restAfterDeclineSeconds);
      return false;
    case 'signedOut':
    case 'setAway':
    case 'personRetired':
      return false;
  }
}

/** A person who cannot be reached directly: their voicemail box takes the call. */
export function afterDirectRing(state: State, call: Call, agent: Agent): void {
  const box = agent.person.voicemailBoxId;
  state.todo.push({ send: call, to: box === null ? { kind: 'end' } : { kind: 'voicemail', id: box } });
}

function endRinging(state: State, call: Call, agent: Agent): void {
  const leg = ringingLeg(call);
  call.legs.splice(call.legs.indexOf(leg), 1);
  call.ringTimer = clearTimer(state, call.ringTimer);
  call.ringingAgent = null;
  agent.ringing = null;
}

function ringingLeg(call: Call): Leg {
  const leg = call.legs.find((each) => each.state === 'ringing' && each.party === 'agent');
  if (leg === undefined) throw new Error(`call ${call.id} has no ringing leg`);
  return leg;
}

export function findLeg(state: State, legId: string): { call: Call; leg: Leg } | null {
  const call = state.calls.get(legId.slice(0, legId.lastIndexOf('.')));
  const leg = call?.legs.find((each) => each.id === legId);
  return call === undefined || leg === undefined ? null : { call, leg };
}

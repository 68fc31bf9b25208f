import type { Destination } from '../model/destination.ts';
import { beginRest, markAway, reachedBy, refreshAgent, ringingPhone } from './agents.ts';
import type { StopRinging } from './effects.ts';
import type { LegFailure, Refusal } from './events.ts';
import type { NotTaken, StoryRecord } from './records.ts';
import { endOffer, leaveQueue, overflow, waitAgain } from './queueing.ts';
import type { Agent, Call, Leg, Phone, State } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';
import { digitsFor, dropLeg, seizeChannel } from './trunks.ts';

/**
 * Rings the agent for `call`: their phone, their outside number, or at once over a line held open. `takenOn` is the phone
 * of theirs on which they said that they take it: that one lifts by itself.
 */
export function ringAgent(
  state: State,
  agent: Agent,
  call: Call,
  ringSeconds: number,
  takenOn: Phone | null = null,
): void {
  const leg: Leg = {
    id: `${call.id}.${++call.legCount}`,
    party: 'agent',
    personId: agent.person.id,
    phoneId: null,
    trunkId: null,
    over: null,
    state: 'ringing',
    since: state.now,
  };
  call.legs.push(leg);
  // While a caller is announced, their own talk goes on.
  if (call.announcedTo === null) {
    call.stage = 'ringing';
    call.stageSince = state.now;
  }
  call.offers++;
  call.ringingAgent = agent;
  agent.ringing = call;
  const queueId = call.queue === null ? null : call.queue.item.id;
  if (agent.line !== null && takenOn === null) {
    leg.over = agent.line.legs[0]!.id;
    leg.phoneId = agent.line.legs[0]!.phoneId;
    state.out.effects.push({ kind: 'takeLine', callId: call.id, leg: leg.id, line: leg.over, queueId });
    return takeAnswer(state, call, leg, agent);
  }
  const phone = takenOn ?? ringingPhone(state, agent);
  if (phone === undefined) throw new Error('ringAgent: choose only agents with a phone that can be reached');
  leg.phoneId = phone.item.id;
  call.ringTimer = setTimer(state, 'ring', call, state.now + ringSeconds * 1000);
  if (phone.item.kind === 'outside') dialOutside(state, call, leg, phone, ringSeconds);
  else {
    state.out.effects.push({
      kind: 'ring',
      callId: call.id,
      leg: leg.id,
      phoneId: phone.item.id,
      personId: agent.person.id,
      from: call.direction === 'outbound' ? call.to : call.from,
      callerName: call.callerName,
      to: call.to,
      queueId,
      ringSeconds,
      answerBySelf: call.direction === 'outbound' || takenOn !== null || agent.person.answerBySelf,
    });
  }
  refreshAgent(state, agent);
}

/** Dials the outside number of an agent on behalf of a call. */
export function dialOutside(state: State, call: Call, leg: Leg, phone: Phone, ringSeconds: number): void {
  const trunk = state.trunks.get(phone.item.trunkId!)!;
  seizeChannel(state, trunk, leg);
  state.out.effects.push({
    kind: 'dial',
    callId: call.id,
    leg: leg.id,
    trunkId: trunk.item.id,
    digits: digitsFor(state, phone.item.e164!, { kind: 'person', teamId: null }),
    callerId: trunk.item.callerId ?? shownTo(state, call),
    ringSeconds,
    party: 'agent',
    personId: phone.item.personId,
    queueId: call.queue === null ? null : call.queue.item.id,
    contact: null,
  });
}

/** Only a number held may be shown: the one that was dialled, or the campaign's own. */
function shownTo(state: State, call: Call): string {
  if (call.direction === 'outbound') return call.from;
  return state.numberByDigits.has(call.to) ? call.to : '';
}

/** An agent's phone was lifted. At an outside number the call is theirs only once they press the key. */
export function agentLifted(state: State, call: Call, leg: Leg): Refusal | null {
  const agent = call.ringingAgent;
  if (leg.state !== 'ringing' || agent === null) return 'legNotRinging';
  if (leg.trunkId === null) {
    takeAnswer(state, call, leg, agent);
    return null;
  }
  askToAccept(state, call, leg, agent);
  return null;
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

/** The agent's phone did not take the call, as its device or its provider says. */
export function agentLegFailed(state: State, call: Call, leg: Leg, cause: LegFailure): Refusal | null {
  if (leg.state !== 'ringing' && leg.state !== 'confirming') return 'legNotRinging';
  offerFailed(state, call, leg.state === 'confirming' ? 'notAccepted' : cause);
  return null;
}

export function agentRangOut(state: State, call: Call, reason: 'noAnswer' | 'notAccepted'): void {
  stopRinging(state, call, reason);
  offerFailed(state, call, reason);
}

/** Stops an offer because the agent left; the caller goes on to the next. */
export function leaveRinging(
  state: State,
  agent: Agent,
  why: 'signedOut' | 'setAway' | 'personRetired',
): void {
  const call = agent.ringing;
  if (call === null || call.direction === 'line') return;
  stopRinging(state, call, why);
  offerFailed(state, call, why);
}

function stopRinging(state: State, call: Call, why: StopRinging): void {
  state.out.effects.push({ kind: 'stopRinging', callId: call.id, leg: ringingLeg(call).id, why });
}

/** The call goes away while a phone rings for it: the agent is free again, without rest or blame. */
export function abandonOffer(state: State, call: Call, why: StopRinging): void {
  const agent = call.ringingAgent;
  if (agent === null) return;
  stopRinging(state, call, why);
  if (call.queue !== null && call.announcedTo === null) endOffer(call);
  call.announcedTo = null;
  endRinging(state, call, agent);
  refreshAgent(state, agent);
  state.todo.push(agent);
}

function offerFailed(state: State, call: Call, reason: NotTaken): void {
  const agent = call.ringingAgent!;
  const rangMs = state.now - ringingLeg(call).since;
  endRinging(state, call, agent);
  const announced = call.announcedTo !== null;
  const setsAway = call.queue !== null && !announced && rest(state, agent, reason);
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
  if (announced) callerBack(state, call, 'notTaken');
  else if (queue === null) {
    afterDirectRing(state, call, meantFor(state, call) ?? agent);
  } else {
    call.tried.push(agent.person.id);
    endOffer(call);
    if (call.direction === 'outbound') waitAgain(state, call);
    else if (queue.retired) overflow(state, call, 'queueRetired');
    else if (call.overdue) overflow(state, call, 'waitedTooLong');
    else if (queue.signedIn === 0 && queue.item.whenNobody !== null) overflow(state, call, 'nobodySignedIn');
    else waitAgain(state, call);
  }
  state.todo.push(agent);
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

/** Whom a call straight to a person was for, whoever took it. */
function meantFor(state: State, call: Call): Agent | undefined {
  const to = call.lastDestination;
  return to?.kind === 'person' ? state.agents.get(to.id) : undefined;
}

/** The rest after an offer that was not taken. True when it sets the agent away. */
function rest(state: State, agent: Agent, reason: NotTaken): boolean {
  const settings = state.settings;
  switch (reason) {
    case 'noAnswer':
    case 'notAccepted':
      agent.misses++;
      beginRest(state, agent, settings.restAfterNoAnswerSeconds);
      if (agent.misses < settings.missesBeforeAway) return false;
      agent.misses = 0;
      markAway(state, agent, 'not answering');
      return true;
    case 'declined':
    case 'busy':
    case 'unreachable':
    case 'refused':
    case 'noRoute':
    case 'congestion':
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
  const { noAnswer, voicemailBoxId } = agent.person;
  const own: Destination =
    voicemailBoxId === null ? { kind: 'end' } : { kind: 'voicemail', id: voicemailBoxId };
  state.todo.push({ send: call, to: noAnswer ?? own });
}

/** The phone that rang for this call, or was lifted and not accepted, has nothing to do with it any more. */
export function endRinging(state: State, call: Call, agent: Agent): void {
  dropLeg(state, call, ringingLeg(call));
  call.ringTimer = clearTimer(state, call.ringTimer);
  call.ringingAgent = null;
  agent.ringing = null;
}

export function ringingLeg(call: Call): Leg {
  const leg = call.legs.find(
    (each) => (each.state === 'ringing' || each.state === 'confirming') && each.party === 'agent',
  );
  if (leg === undefined) throw new Error(`call ${call.id} has no ringing leg`);
  return leg;
}

export function findLeg(state: State, legId: string): { call: Call; leg: Leg } | null {
  const call = state.calls.get(legId.slice(0, legId.lastIndexOf('.')));
  const leg = call?.legs.find((each) => each.id === legId);
  return call === undefined || leg === undefined ? null : { call, leg };
}

import type { Asker, DialDecision } from '../dialling/rules.ts';
import type { OutsideNumberItem } from '../model/configuration.ts';
import { refreshAgent } from './agents.ts';
import { nextInChain } from './chain.ts';
import { endCall } from './ending.ts';
import type { ExchangeEvent, LegFailure, Refusal } from './events.ts';
import { connect, holdCall } from './answering.ts';
import { keepNobody } from './in-air.ts';
import { leaveRinging } from './offers.ts';
import type { Leg } from './call-parts.ts';
import { type Agent, Call, type Phone, type State, type Trunk } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';
import { digitsFor, dropLeg, seizeChannel } from './trunks.ts';

const directRingSeconds = 45;

/** Failures of the line, not of who was called: the next trunk may do better. */
const linesFault: ReadonlySet<LegFailure> = new Set(['congestion', 'refused', 'noRoute', 'unreachable']);

/** Sends a call that came in on to an outside number. */
export function forward(state: State, call: Call, target: OutsideNumberItem): void {
  const asker: Asker = { kind: 'person', teamId: null };
  // With a trunk chosen by name the rules only make the digits.
  const decision: DialDecision =
    target.trunkId === null
      ? state.dialPlan.decide(target.e164, asker)
      : { kind: 'noRules', digits: digitsFor(state, target.e164, asker) };
  const callerId = state.numberByDigits.has(call.to) ? call.to : '';
  goOut(state, call, decision, {
    name: target.name,
    callerId,
    ringSeconds: target.ringSeconds,
    trunkId: target.trunkId,
  });
}

/** Somebody of ours dialled a number that is none of ours. */
export function dialDirectly(
  state: State,
  event: ExchangeEvent & { kind: 'callArrived' },
  phone: Phone,
): Refusal | null {
  const agent = state.agents.get(phone.item.personId);
  if (agent === undefined || agent.retired) return 'unknownPerson';
  const asker: Asker = { kind: 'person', teamId: agent.person.teamId };
  const decision = state.dialPlan.decide(event.to, asker);
  const busy = agent.ringing !== null || agent.keptFor !== null || agent.calls.length >= agent.callLimit;
  if (busy && decision.kind !== 'emergency') return 'atLimit';
  const call = new Call({
    id: event.callId,
    direction: 'dialled',
    to: event.to,
    from: phone.item.callerId ?? agent.person.extension ?? '',
    callerName: agent.person.name,
    priority: 0,
    at: state.now,
    standIn: event.standIn ?? false,
    record: null,
    campaign: null,
    contact: null,
  });
  call.legs.push({
    id: `${call.id}.1`,
    party: 'caller',
    personId: agent.person.id,
    phoneId: phone.item.id,
    trunkId: null,
    over: null,
    state: 'connected',
    since: state.now,
  });
  state.calls.set(call.id, call);
  // A call for help goes out whatever else they do, and counts like any other: what rings meanwhile goes to the next.
  if (decision.kind === 'emergency') {
    leaveRinging(state, agent, 'callsForHelp');
    if (agent.keptFor !== null) keepNobody(state, agent.keptFor);
  }
  occupy(state, agent, call);
  if (state.out.detail !== 'none')
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'dialledBy',
      personId: agent.person.id,
      name: agent.person.name,
      to: event.to,
    });
  if (decision.kind === 'emergency')
    state.out.effects.push({
      kind: 'emergency',
      callId: call.id,
      personId: agent.person.id,
      phoneId: phone.item.id,
      digits: decision.digits,
      address: phone.item.emergencyAddress,
    });
  const callerId = phone.item.callerId ?? '';
  // Whether they may dial it and with which digits, the rules say all the same.
  const trunkId = phone.item.dialTrunkId;
  goOut(state, call, decision, { name: '', callerId, ringSeconds: directRingSeconds, trunkId });
  return null;
}

function occupy(state: State, agent: Agent, call: Call): void {
  for (const other of agent.calls) holdCall(state, agent, other, call.id);
  call.talkingAgent = agent;
  agent.calls.push(call);
  agent.talkingSince = state.now;
  refreshAgent(state, agent);
}

function goOut(
  state: State,
  call: Call,
  decision: DialDecision,
  to: { name: string; callerId: string; ringSeconds: number; trunkId: string | null },
): void {
  if (!('digits' in decision)) {
    note(state, call, { kind: 'noWay', why: decision.kind });
    return outwardOver(state, call, 'noRoute');
  }
  const all = [...state.trunks.keys()];
  const byRule = decision.kind === 'rule' && decision.rule.trunkIds.length > 0 ? decision.rule.trunkIds : all;
  const emergency = decision.kind === 'emergency';
  call.outward = {
    digits: decision.digits,
    name: to.name,
    callerId: to.callerId,
    ringSeconds: to.ringSeconds,
    trunkIds: to.trunkId === null || emergency ? [...byRule] : [to.trunkId],
    emergency,
  };
  call.stage = 'forwarding';
  call.stageSince = state.now;
  note(state, call, {
    kind: 'wayOut',
    digits: decision.digits,
    name: to.name,
    ruleName: decision.kind === 'rule' ? decision.rule.name : null,
    emergency,
  });
  tryNext(state, call, 'congestion');
}

/** The next trunk that has a channel; a call for help takes the first even when it has none. */
function tryNext(state: State, call: Call, failure: LegFailure): void {
  const way = call.outward!;
  for (let id = way.trunkIds.shift(); id !== undefined; id = way.trunkIds.shift()) {
    const trunk = state.trunks.get(id);
    if (trunk === undefined) continue;
    if (!trunk.isFull || (way.emergency && way.trunkIds.length === 0)) return dial(state, call, trunk);
    note(state, call, { kind: 'wayFailed', trunkName: trunk.item.name, cause: 'congestion' });
  }
  outwardOver(state, call, failure);
}

function dial(state: State, call: Call, trunk: Trunk): void {
  const way = call.outward!;
  const leg: Leg = {
    id: `${call.id}.${++call.legCount}`,
    party: 'outside',
    personId: null,
    phoneId: null,
    trunkId: null,
    over: null,
    state: 'ringing',
    since: state.now,
  };
  call.legs.push(leg);
  seizeChannel(state, trunk, leg);
  call.ringTimer = setTimer(state, 'ring', call, state.now + way.ringSeconds * 1000);
  note(state, call, { kind: 'outsideRings', trunkName: trunk.item.name, callerId: way.callerId });
  state.out.effects.push({
    kind: 'dial',
    callId: call.id,
    leg: leg.id,
    trunkId: trunk.item.id,
    digits: way.digits,
    callerId: trunk.item.callerId ?? way.callerId,
    ringSeconds: way.ringSeconds,
    party: 'outside',
    personId: null,
    queueId: null,
    contact: null,
  });
}

export function outsideAnswered(state: State, call: Call, leg: Leg): Refusal | null {
  if (call.stage !== 'forwarding') return 'legNotRinging';
  call.ringTimer = clearTimer(state, call.ringTimer);
  const rangMs = state.now - leg.since;
  leg.state = 'connected';
  leg.since = state.now;
  call.stage = 'forwarded';
  call.stageSince = state.now;
  call.answeredAt ??= state.now;
  connect(state, call, call.legs[0]!, leg);
  const { name, digits } = call.outward!;
  note(state, call, { kind: 'forwarded', name: name === '' ? digits : name, rangMs });
  return null;
}

export function outsideFailed(state: State, call: Call, leg: Leg, cause: LegFailure): Refusal | null {
  if (call.stage !== 'forwarding') return 'legNotRinging';
  const trunkName = state.trunks.get(leg.trunkId ?? '')?.item.name ?? '';
  call.ringTimer = clearTimer(state, call.ringTimer);
  dropLeg(state, call, leg);
  note(state, call, { kind: 'wayFailed', trunkName, cause });
  if (linesFault.has(cause)) tryNext(state, call, cause);
  else outwardOver(state, call, cause);
  return null;
}

export function outsideRangOut(state: State, call: Call): void {
  const leg = call.legs.find((each) => each.party === 'outside')!;
  state.out.effects.push({ kind: 'stopRinging', callId: call.id, leg: leg.id, why: 'noAnswer' });
  outsideFailed(state, call, leg, 'noAnswer');
}

export function outsideEnded(state: State, call: Call, leg: Leg): Refusal | null {
  if (call.stage === 'forwarding') return outsideFailed(state, call, leg, 'unreachable');
  endCall(state, call, 'contact', resultOfOutward(call));
  return null;
}

/** A talk with somebody outside is a forwarded call, or one that a person of ours made and had answered. */
export function resultOfOutward(call: Call): 'forwarded' | 'answered' {
  return call.direction === 'dialled' ? 'answered' : 'forwarded';
}

/** Nobody outside was reached: who dialled hears why; a caller takes the next step, or is told that nobody can take the call. */
function outwardOver(state: State, call: Call, cause: LegFailure): void {
  call.outward = null;
  if (call.direction === 'dialled') endCall(state, call, 'contact', cause === 'declined' ? 'refused' : cause);
  else if (call.chain !== null) nextInChain(state, call);
  else state.todo.push({ send: call, to: { kind: 'end' } });
}

type Note =
  | { kind: 'noWay'; why: 'noMatch' | 'notDialable' }
  | { kind: 'wayOut'; digits: string; name: string; ruleName: string | null; emergency: boolean }
  | { kind: 'wayFailed'; trunkName: string; cause: LegFailure }
  | { kind: 'outsideRings'; trunkName: string; callerId: string }
  | { kind: 'forwarded'; name: string; rangMs: number };

function note(state: State, call: Call, what: Note): void {
  if (state.out.detail !== 'none') state.out.records.push({ callId: call.id, at: state.now, ...what });
}

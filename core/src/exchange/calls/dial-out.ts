import type { Asker, DialDecision } from '../../dialling/rules.ts';
import type { OutsideNumberItem } from '../../model/configuration.ts';
import type { LegFailure } from '../../story/facts.ts';
import type { Agent, Phone } from '../agents/agent.ts';
import { reindexAgent } from '../agents/reindex.ts';
import type { ExchangeEvent, Refusal } from '../kernel/events.ts';
import { effect, note, stopRinging } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer } from '../kernel/timers.ts';
import { leaveStep, serveLater } from '../kernel/later.ts';
import { outsideAnsweredForGroup } from '../groups/members.ts';
import { connect, holdCall } from '../media/hearing.ts';
import { digitsFor } from '../media/channels.ts';
import { addLeg, type Leg } from '../media/leg.ts';
import { leaveRinging } from '../offers/outcome.ts';
import { cancelReservation } from '../outbound/in-air.ts';
import { begin, routeAttemptOf } from './resting.ts';
import { beginCall } from './begin-call.ts';
import { dialOut, routeFailed } from './route-attempt.ts';
import type { Call } from './call.ts';
import { endCall } from './ending.ts';
import { missBy } from './miss.ts';
import { resultOfDialOut } from './hang-up.ts';

const directRingSeconds = 45;

/** Sends a call that came in on to an outside number. */
export function forward(state: State, call: Call, target: OutsideNumberItem, seconds: number | null): void {
  if (goesRound(state, call, target)) {
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'forwardLoop',
      name: target.name,
      most: mostForwards,
    });
    effect(state, { kind: 'forwardLoop', callId: call.id, outsideId: target.id });
    return routeExhausted(state, call, 'noRoute');
  }
  const asker: Asker = { kind: 'person', teamId: null };
  // With a trunk chosen by name the rules only make the digits.
  const decision: DialDecision =
    target.trunkId === null
      ? state.dialPlan.decide(target.e164, asker)
      : { kind: 'noRules', digits: digitsFor(state, target.e164, asker) };
  const callerId = state.numberByDigits.has(call.to) ? call.to : '';
  const failure = dialOut(state, call, decision, {
    name: target.name,
    callerId,
    ringSeconds: seconds ?? target.ringSeconds,
    trunkId: target.trunkId,
  });
  if (failure !== null) routeExhausted(state, call, failure);
}

/** Calls of one caller that may be out to one number at once. */
const mostForwards = 3;

/**
 * Whether the number outside seems to send calls back to us: several of this caller are out to it already. Who comes back
 * shows the number they called, so callers with a number of ours count as one.
 */
function goesRound(state: State, call: Call, { e164, name }: OutsideNumberItem): boolean {
  const ours = state.numberByDigits.has(call.from);
  let out = 0;
  for (const other of state.calls.values()) {
    const { activity } = other;
    if (other === call || (activity.kind !== 'dialOut' && activity.kind !== 'bridgedOutside')) continue;
    const sameCaller = other.from === call.from || (ours && state.numberByDigits.has(other.to));
    if (activity.attempt.name === name && sameCaller && other.direction === 'inbound') out++;
  }
  return out >= mostForwards || state.numberByDigits.get(e164)?.e164 === call.to;
}

/** Somebody of ours dialled a number that is none of ours. */
export function dialDirectly(
  state: State,
  event: ExchangeEvent & { kind: 'callArrived' },
  phone: Phone,
): Refusal | null {
  const agent = state.agents.get(phone.item.personId);
  if (agent === undefined || agent.retired) return 'unknownPerson';
  const decision = state.dialPlan.decide(event.to, { kind: 'person', teamId: agent.person.teamId });
  const busy = agent.ringing !== null || agent.reservedFor !== null || agent.callCount >= agent.callLimit;
  if (busy && decision.kind !== 'emergency') return 'atLimit';
  const call = beginCall(state, {
    id: event.callId,
    direction: 'dialled',
    to: event.to,
    from: phone.item.callerId ?? agent.person.extension ?? '',
    callerName: agent.person.name,
    standIn: event.standIn ?? false,
  });
  addLeg(state, call, 'caller', 'connected', { personId: agent.person.id, phoneId: phone.item.id });
  // A call for help goes out whatever else they do, and counts like any other: what rings meanwhile goes to the next.
  if (decision.kind === 'emergency') {
    leaveRinging(state, agent, 'callsForHelp');
    if (agent.reservedFor !== null) {
      cancelReservation(state, agent.reservedFor);
      // Who may carry several calls can be free for a caller who waits.
      serveLater(state, agent);
    }
  }
  occupy(state, agent, call);
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'dialledBy',
    personId: agent.person.id,
    name: agent.person.name,
    to: event.to,
  });
  if (decision.kind === 'emergency') {
    state.helpAskedAt = state.now;
    effect(state, {
      kind: 'emergency',
      callId: call.id,
      personId: agent.person.id,
      phoneId: phone.item.id,
      digits: decision.digits,
      address: phone.item.emergencyAddress,
    });
  }
  const callerId = phone.item.callerId ?? '';
  // Whether they may dial it and with which digits, the rules say all the same.
  const trunkId = phone.item.dialTrunkId;
  const to = { name: '', callerId, ringSeconds: directRingSeconds, trunkId };
  const failure = dialOut(state, call, decision, to);
  if (failure !== null) routeExhausted(state, call, failure);
  return null;
}

function occupy(state: State, agent: Agent, call: Call): void {
  for (const other of agent.calls) holdCall(state, agent, other, call.id);
  call.talkingAgent = agent;
  agent.calls.push(call);
  agent.talkingSince = state.now;
  reindexAgent(state, agent);
}

export function outsideAnswered(state: State, call: Call, leg: Leg): Refusal | null {
  const attempt = routeAttemptOf(call);
  if (attempt === null || leg.party !== 'outside') return 'legNotRinging';
  clearTimer(state, call, 'activity');
  const rangMs = state.now - leg.since;
  leg.state = 'connected';
  leg.since = state.now;
  begin(call, state.now, { kind: 'bridgedOutside', attempt });
  call.answeredAt ??= state.now;
  outsideAnsweredForGroup(state, call);
  connect(state, call, call.legs[0]!, leg);
  const { name, digits } = attempt;
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'forwarded',
    name: name === '' ? digits : name,
    rangMs,
  });
  return null;
}

export function outsideFailed(state: State, call: Call, leg: Leg, cause: LegFailure): Refusal | null {
  const attempt = routeAttemptOf(call);
  if (attempt === null || leg.party !== 'outside') return 'legNotRinging';
  const failure = routeFailed(state, call, leg, cause);
  if (failure !== null) routeExhausted(state, call, failure);
  return null;
}

export function outsideRangOut(state: State, call: Call): void {
  const leg = call.legs.find((each) => each.party === 'outside')!;
  stopRinging(state, call, leg.id, 'noAnswer');
  outsideFailed(state, call, leg, 'noAnswer');
}

/** Whom we talked with outside hung up. */
export function outsideEnded(state: State, call: Call): Refusal | null {
  endCall(state, call, 'contact', resultOfDialOut(call));
  return null;
}

/** Nobody outside was reached: who dialled hears why; a caller takes the next step, or is told that nobody can take the call. */
function routeExhausted(state: State, call: Call, cause: LegFailure): void {
  if (call.direction === 'dialled')
    return endCall(state, call, 'contact', cause === 'declined' ? 'refused' : cause);
  begin(call, state.now, { kind: 'step' });
  leaveStep(state, call, 'notReached', null, { why: missBy(cause), not: [] });
}

import type { LegFailure } from '../../story/facts.ts';
import type { ActivityOf } from '../calls/activity.ts';
import { begin } from '../calls/resting.ts';
import { beginCall } from '../calls/begin-call.ts';
import type { Call } from '../calls/call.ts';
import { endCall } from '../calls/ending.ts';
import type { ExchangeEvent, Refusal } from '../kernel/events.ts';
import { note, play, stopRinging } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer } from '../kernel/timers.ts';
import { serveLater } from '../kernel/later.ts';
import { addLeg, type Leg } from '../media/leg.ts';
import { askToAccept } from '../offers/answering.ts';
import type { Offer } from '../offers/offer.ts';
import { acceptKey } from '../offers/outcome.ts';
import { armOffer, dialAgent, withdraw } from '../offers/ringing.ts';
import { agentSideEnded } from '../transfer/consultation.ts';
import type { Agent } from './agent.ts';
import { lookAtPhonesAgain } from './phones.ts';
import { reindexAgent } from './reindex.ts';

/** How long an agent's outside number rings when a line to it is asked for. */
const lineRingSeconds = 30;

/** Dials an agent's outside number, to be accepted with a key and held open between calls. */
export function askPersistentLine(
  state: State,
  event: ExchangeEvent & { kind: 'persistentLineAsked' },
): Refusal | null {
  const agent = state.agents.get(event.personId);
  if (agent === undefined || agent.retired) return 'unknownPerson';
  if (state.calls.has(event.callId)) return 'callExists';
  if (agent.persistentLine !== null || agent.ringing !== null) return 'lineOpen';
  const phone = agent.phones.find((each) => each.item.kind === 'outside');
  const trunk = state.trunks.get(phone?.item.trunkId ?? '');
  if (phone === undefined || phone.item.e164 === null || trunk === undefined) return 'noOutsideNumber';
  if (trunk.isFull) return 'trunkFull';
  const call = beginCall(state, {
    id: event.callId,
    direction: 'line',
    to: phone.item.e164,
    from: '',
    callerName: null,
  });
  const whose = { personId: agent.person.id, phoneId: phone.item.id };
  const leg = addLeg(state, call, 'agent', 'ringing', whose);
  const part = { agent, legId: leg.id, until: state.now + lineRingSeconds * 1000 };
  const offer: Offer = { mode: 'one', since: state.now, parts: [part], pickedUp: false };
  begin(call, state.now, { kind: 'lineOffered', offer });
  agent.ringing = call;
  agent.ringingSince = state.now;
  armOffer(state, call, offer);
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'lineDialled',
    personId: agent.person.id,
    name: agent.person.name,
    to: call.to,
    trunkName: trunk.item.name,
  });
  dialAgent(state, call, leg, phone, lineRingSeconds);
  reindexAgent(state, agent);
  return null;
}

function offered(call: Call): ActivityOf<'lineOffered'> {
  if (call.activity.kind !== 'lineOffered') throw new Error(`call ${call.id} is no line asked for`);
  return call.activity;
}

export function lineLifted(state: State, call: Call, leg: Leg): Refusal | null {
  if (leg.state !== 'ringing') return 'legNotRinging';
  const { offer } = offered(call);
  const part = offer.parts[0]!;
  part.until = state.now + state.settings.acceptSeconds * 1000;
  armOffer(state, call, offer);
  askToAccept(state, call, leg, part.agent);
  return null;
}

/** The key was pressed: the line stays open. */
export function lineAccepted(state: State, call: Call, leg: Leg, key: string): Refusal | null {
  if (leg.state !== 'confirming' || key !== acceptKey) return 'notExpected';
  const { agent } = offered(call).offer.parts[0]!;
  clearTimer(state, call, 'activity');
  agent.ringing = null;
  agent.persistentLine = call;
  call.talkingAgent = agent;
  call.answeredAt = state.now;
  begin(call, state.now, { kind: 'lineHeld' });
  leg.state = 'connected';
  leg.since = state.now;
  play(state, call, leg.id, 'lineHeld');
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'lineHeld',
    personId: agent.person.id,
    name: agent.person.name,
  });
  lookAtPhonesAgain(state, agent);
  return null;
}

/** Nobody lifted, nobody pressed the key, or the provider could not reach the number. */
export function lineFailed(state: State, call: Call, cause: LegFailure): null {
  const { offer } = offered(call);
  const part = offer.parts[0]!;
  const leg = call.legs[0]!;
  if (leg.state === 'confirming' || cause === 'noAnswer') stopRinging(state, call, leg.id, 'notAccepted');
  withdraw(state, call, offer, part);
  reindexAgent(state, part.agent);
  serveLater(state, part.agent);
  endCall(state, call, 'exchange', cause === 'declined' ? 'refused' : cause);
  return null;
}

/** The line was held and its agent hung up. */
export function heldLineEnded(state: State, call: Call): null {
  closePersistentLine(state, call.talkingAgent!, 'agent');
  return null;
}

/** Closes the agent's line; calls it carries end with it. */
export function closePersistentLine(state: State, agent: Agent, by: 'agent' | 'exchange'): void {
  const asked = agent.ringing;
  if (asked?.direction === 'line') return void lineFailed(state, asked, 'noAnswer');
  const line = agent.persistentLine;
  if (line === null) return;
  const legId = line.legs[0]!.id;
  for (const call of [...agent.calls]) {
    const leg = call.legs.find((each) => each.over === legId);
    if (leg !== undefined) agentSideEnded(state, call, leg);
  }
  endCall(state, line, by, 'lineClosed');
}

export function closeLineOf(state: State, personId: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  closePersistentLine(state, agent, 'exchange');
  return null;
}

import { begin, offerOf } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import type { Agent, Phone } from '../agents/agent.ts';
import { ringingPhone } from '../agents/phones.ts';
import { reindexAgent } from '../agents/reindex.ts';
import { effect, stopRinging } from '../kernel/journal.ts';
import type { StopRinging } from '../kernel/effects.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer, setTimer } from '../kernel/timers.ts';
import { serveLater } from '../kernel/later.ts';
import { digitsFor, dropLeg, seizeChannel } from '../media/channels.ts';
import { addLeg, type Leg, legById } from '../media/leg.ts';
import { takeAnswer } from './answering.ts';
import type { Offer, OfferPart } from './offer.ts';

/** How an offer differs from the usual one. */
export interface OfferHow {
  mode?: Offer['mode'];
  /** The phone of theirs that rings; else the one that would. */
  phone?: Phone;
  /** It lifts by itself, because they said on it that they take the call. */
  liftsByItself?: boolean;
  pickedUp?: boolean;
}

/**
 * Offers the call to agents: their phone rings, their outside number, or it is theirs at once over a line held open. The
 * caller has seen that each can be rung. In a consultation the talk with the caller goes on meanwhile.
 */
export function offerTo(
  state: State,
  call: Call,
  agents: readonly Agent[],
  ringSeconds: number | ((agent: Agent) => number),
  how: OfferHow = {},
): void {
  const { mode = 'one', pickedUp = false } = how;
  const offer: Offer = { mode, since: state.now, parts: [], pickedUp };
  if (call.activity.kind === 'consulting') call.activity.offer = offer;
  else begin(call, state.now, { kind: 'offered', offer });
  call.offers++;
  for (const agent of agents) {
    // Those rung before them may have taken the last channel to an outside number.
    if (offer.parts.length > 0 && !canBeRung(state, agent)) continue;
    ringAgent(
      state,
      call,
      offer,
      agent,
      typeof ringSeconds === 'number' ? ringSeconds : ringSeconds(agent),
      how,
    );
    if (offerOf(call) !== offer) return;
  }
}

const canBeRung = (state: State, agent: Agent) =>
  agent.persistentLine !== null || ringingPhone(state, agent) !== undefined;

function ringAgent(
  state: State,
  call: Call,
  offer: Offer,
  agent: Agent,
  ringSeconds: number,
  how: OfferHow,
): void {
  const leg = addLeg(state, call, 'agent', 'ringing', { personId: agent.person.id });
  const part: OfferPart = { agent, legId: leg.id, until: state.now + ringSeconds * 1000 };
  if (offer.parts.length === 0) offer.parts = [part];
  else offer.parts.push(part);
  agent.ringing = call;
  agent.ringingSince = offer.since;
  const queueId = call.queue === null ? null : call.queue.item.id;
  if (agent.persistentLine !== null && how.phone === undefined) {
    const line = agent.persistentLine.legs[0]!;
    leg.over = line.id;
    leg.phoneId = line.phoneId;
    effect(state, { kind: 'takeLine', callId: call.id, leg: leg.id, line: line.id, queueId });
    return takeAnswer(state, call, leg, agent);
  }
  const phone = how.phone ?? ringingPhone(state, agent);
  if (phone === undefined) throw new Error('offerTo: choose only agents with a phone that can be reached');
  leg.phoneId = phone.item.id;
  if (call.noAnswerPath?.personId === agent.person.id) call.noAnswerPath.rung.push(phone.item.id);
  armOffer(state, call, offer);
  if (phone.item.kind === 'outside') dialAgent(state, call, leg, phone, ringSeconds);
  else {
    effect(state, {
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
      answerBySelf: call.direction === 'outbound' || how.liftsByItself === true || agent.person.answerBySelf,
    });
  }
  reindexAgent(state, agent);
}

/** Wakes up when the first of those who are rung has rung, or may decide, long enough. */
export function armOffer(state: State, call: Call, offer: Offer): void {
  let first = Number.POSITIVE_INFINITY;
  for (const { until } of offer.parts) first = Math.min(first, until);
  if (offer.parts.length > 0) setTimer(state, call, 'activity', first);
}

/** Dials the outside number of an agent on behalf of a call. */
export function dialAgent(state: State, call: Call, leg: Leg, phone: Phone, ringSeconds: number): void {
  const trunk = state.trunks.get(phone.item.trunkId!)!;
  seizeChannel(state, trunk, leg);
  effect(state, {
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

/** One of those who were rung has nothing to do with it any more: their leg is gone, and they are free. */
export function withdraw(state: State, call: Call, offer: Offer, part: OfferPart): void {
  dropLeg(state, call, legById(call, part.legId));
  offer.parts.splice(offer.parts.indexOf(part), 1);
  if (offer.parts.length === 0) clearTimer(state, call, 'activity');
  else armOffer(state, call, offer);
  part.agent.ringing = null;
}

/** Everybody who is rung is let go, without back-off or blame. */
export function withdrawAll(state: State, call: Call, offer: Offer, why: StopRinging): void {
  for (const part of [...offer.parts]) {
    stopRinging(state, call, part.legId, why);
    withdraw(state, call, offer, part);
    reindexAgent(state, part.agent);
    serveLater(state, part.agent);
  }
}

export function partOf(offer: Offer, leg: Leg): OfferPart | null {
  return offer.parts.find((part) => part.legId === leg.id) ?? null;
}

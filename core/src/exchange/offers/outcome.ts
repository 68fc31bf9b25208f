import { notAnswering } from '../../model/waiting.ts';
import { strongerMiss } from '../../plan/ring.ts';
import type { NotTaken } from '../../story/records.ts';
import type { Agent } from '../agents/agent.ts';
import { beginBackOff, markAway } from '../agents/presence.ts';
import { reindexAgent } from '../agents/reindex.ts';
import { begin, offerOf } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { callerBack } from '../calls/caller-back.ts';
import { missBy } from '../calls/miss.ts';
import type { StopRinging } from '../kernel/effects.ts';
import type { Refusal } from '../kernel/events.ts';
import { note, stopRinging } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { leaveStep, serveLater } from '../kernel/later.ts';
import { type Leg, legById } from '../media/leg.ts';
import { uncountOffer } from '../queues/place.ts';
import { backToQueue, waitingKeyPressed } from '../queues/waiting.ts';
import { lookWhoIsLeftOf } from '../queues/ways-out.ts';
import { askToAccept, takeAnswer } from './answering.ts';
import type { Offer, OfferPart } from './offer.ts';
import { armOffer, partOf, withdraw, withdrawAll } from './ringing.ts';

/** The key with which somebody reached on an outside number takes a call. */
export const acceptKey = '1';

/** An agent's phone was lifted. At an outside number the call is theirs only once they press the key. */
export function agentLifted(state: State, call: Call, leg: Leg): Refusal | null {
  const offer = offerOf(call);
  const part = offer === null ? null : partOf(offer, leg);
  if (offer === null || part === null || leg.state !== 'ringing') return 'legNotRinging';
  if (leg.trunkId === null) takeAnswer(state, call, leg, part.agent);
  else {
    part.until = state.now + state.settings.acceptSeconds * 1000;
    armOffer(state, call, offer);
    askToAccept(state, call, leg, part.agent);
  }
  return null;
}

export function agentPressed(state: State, call: Call, leg: Leg, key: string): Refusal | null {
  const offer = offerOf(call);
  const part = offer === null ? null : partOf(offer, leg);
  if (part === null || leg.state !== 'confirming' || key !== acceptKey) return 'notExpected';
  takeAnswer(state, call, leg, part.agent);
  return null;
}

/** The caller leaves the queue by its key while somebody is rung for them. */
export function callerPressedWhileRinging(state: State, call: Call, _leg: Leg, key: string): Refusal | null {
  if (call.queue === null || key !== call.queue.item.leaveKey) return 'notExpected';
  abandonOffer(state, call, 'callerLeft');
  return waitingKeyPressed(state, call, key);
}

/** The agent's phone did not take the call, as its device or its provider says. */
export function agentLegFailed(state: State, call: Call, leg: Leg, cause: NotTaken): Refusal | null {
  const offer = offerOf(call);
  const part = offer === null ? null : partOf(offer, leg);
  if (offer === null || part === null) return 'legNotRinging';
  offerFailed(state, call, offer, part, leg.state === 'confirming' ? 'notAccepted' : cause);
  return null;
}

/** They hung up before they took it. */
export function agentLegEnded(state: State, call: Call, leg: Leg): Refusal | null {
  return leg.state === 'confirming' ? agentLegFailed(state, call, leg, 'declined') : 'legNotConnected';
}

/** Phones rang as long as they were to, or were lifted and the key not pressed. */
export function offerRanOut(state: State, call: Call): void {
  const offer = offerOf(call)!;
  const due = offer.parts.filter(({ until }) => until <= state.now);
  const rang = due.filter(({ legId }) => legById(call, legId).state !== 'confirming');
  // One line for all of them: who was rung stands in the decision.
  const rungTogether =
    offer.mode === 'all' && call.queue !== null && rang.length > 0 && state.unattendedUntil === null;
  if (rungTogether)
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'noneLifted',
      count: rang.length,
      rangMs: state.now - offer.since,
    });
  for (const part of due) {
    const confirming = legById(call, part.legId).state === 'confirming';
    const reason = confirming ? 'notAccepted' : 'noAnswer';
    stopRinging(state, call, part.legId, reason);
    const why = state.unattendedUntil !== null ? 'unattended' : reason;
    offerFailed(state, call, offer, part, why, confirming || !rungTogether);
  }
  if (offerOf(call) === offer) armOffer(state, call, offer);
}

/** Stops an offer because the agent left; the caller goes on to the next. */
export function leaveRinging(
  state: State,
  agent: Agent,
  why: 'signedOut' | 'setAway' | 'personRetired' | 'callsForHelp',
): void {
  const call = agent.ringing;
  if (call === null || call.direction === 'line') return;
  // The event is about the agent; a fault in what follows is the call's.
  state.atHand = call;
  const offer = offerOf(call);
  if (offer === null) return;
  const part = offer.parts.find((each) => each.agent === agent)!;
  stopRinging(state, call, part.legId, why);
  offerFailed(state, call, offer, part, why);
}

/** The call goes away while phones ring for it: the agents are free again, without back-off or blame. */
export function abandonOffer(state: State, call: Call, why: StopRinging): void {
  const offer = offerOf(call);
  if (offer === null) return;
  if (call.queue !== null && call.activity.kind === 'offered') uncountOffer(call);
  withdrawAll(state, call, offer, why);
  if (call.activity.kind === 'consulting') call.activity.offer = null;
}

function offerFailed(
  state: State,
  call: Call,
  offer: Offer,
  part: OfferPart,
  reason: NotTaken,
  told = true,
): void {
  const { agent } = part;
  const { queue } = call;
  const rangMs = state.now - legById(call, part.legId).since;
  const consults = call.activity.kind === 'consulting';
  const chosen = queue !== null && !consults && !offer.pickedUp && offer.mode === 'one';
  if (queue === null) offer.missed = strongerMiss(offer.missed ?? null, missBy(reason));
  withdraw(state, call, offer, part);
  const setsAway = chosen && backOff(state, agent, reason);
  if (told)
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'notTaken',
      personId: agent.person.id,
      name: agent.person.name,
      reason,
      rangMs,
      backOffUntil: agent.backOffUntil > state.now ? agent.backOffUntil : null,
      setAway: setsAway,
    });
  reindexAgent(state, agent);
  if (offer.parts.length === 0) {
    if (consults) callerBack(state, call, 'notTaken');
    else if (queue === null) {
      const path = call.noAnswerPath;
      if (path?.personId === agent.person.id && reason === 'declined') path.declined = true;
      begin(call, state.now, { kind: 'step' });
      leaveStep(state, call, 'notTaken', null, { why: offer.missed ?? null, not: [] });
    } else {
      if (offer.mode === 'one') call.tried.push(agent.person.id);
      uncountOffer(call);
      backToQueue(state, call, queue, offer.mode);
    }
  }
  if (setsAway) lookWhoIsLeftOf(state, agent);
  serveLater(state, agent);
}

/** The back-off after an offer that was not taken. True when it sets the agent away. */
function backOff(state: State, agent: Agent, reason: NotTaken): boolean {
  const settings = state.settings;
  switch (reason) {
    case 'noAnswer':
    case 'notAccepted':
      agent.misses++;
      beginBackOff(state, agent, settings.backOffAfterNoAnswerSeconds);
      if (agent.misses < settings.missesBeforeAway) return false;
      agent.misses = 0;
      markAway(state, agent, notAnswering);
      return true;
    case 'declined':
    case 'busy':
    case 'unreachable':
    case 'refused':
    case 'noRoute':
    case 'congestion':
      beginBackOff(state, agent, settings.backOffAfterDeclineSeconds);
      return false;
    case 'unattended':
      // Nobody is rung again before somebody hosts the exchange.
      beginBackOff(state, agent, (state.unattendedUntil! - state.now) / 1_000);
      return false;
    case 'signedOut':
    case 'setAway':
    case 'personRetired':
    case 'callsForHelp':
      return false;
  }
}

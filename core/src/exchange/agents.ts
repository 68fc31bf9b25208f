import type { ReachedBy } from '../distribute/candidates.ts';
import { firstReasonIndex, type PhoneFacts } from '../distribute/eligibility.ts';
import type { Destination } from '../model/destination.ts';
import type { Refusal } from './events.ts';
import type { Agent, Phone, State } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';

/** What an agent is away for who signed in and has not said yet that they are ready. */
export const notReadyYet = 'not ready yet';

/** Takes a seat. `asUsual` begins as the person's settings say; else available. */
export function signIn(state: State, personId: string, asUsual = false): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined || agent.retired) return 'unknownPerson';
  if (agent.presence === 'available') return null;
  const wasSignedOut = agent.presence === 'signedOut';
  const { seats } = state.settings;
  if (wasSignedOut && seats !== null && state.signedIn >= seats) return 'noSeat';
  const away = asUsual && wasSignedOut && agent.person.startAway;
  agent.presence = away ? 'away' : 'available';
  agent.awayReason = away ? notReadyYet : null;
  agent.presenceSince = state.now;
  agent.idleSince = state.now;
  agent.misses = 0;
  if (wasSignedOut) {
    state.signedIn++;
    for (const membership of agent.memberships) membership.queue.signedIn++;
  }
  refreshAgent(state, agent);
  state.todo.push(agent);
  return null;
}

/** Sets the agent away; an offer that rings is the caller's affair. */
export function markAway(state: State, agent: Agent, reason: string): void {
  agent.presence = 'away';
  agent.awayReason = reason;
  agent.presenceSince = state.now;
  refreshAgent(state, agent);
}

/** Presence, wrap-up and rest end here; a call in progress goes on. */
export function takeOffDuty(state: State, agent: Agent): void {
  if (agent.presence !== 'signedOut') {
    state.signedIn--;
    for (const membership of agent.memberships) membership.queue.signedIn--;
  }
  agent.presence = 'signedOut';
  agent.awayReason = null;
  agent.presenceSince = state.now;
  agent.wrapUpUntil = 0;
  agent.restsUntil = 0;
  agent.wrapUpTimer = clearTimer(state, agent.wrapUpTimer);
  agent.restTimer = clearTimer(state, agent.restTimer);
  refreshAgent(state, agent);
}

export function beginWrapUp(state: State, agent: Agent, seconds: number): void {
  if (seconds <= 0 || agent.presence === 'signedOut') return;
  agent.wrapUpSince = state.now;
  agent.wrapUpUntil = state.now + seconds * 1000;
  clearTimer(state, agent.wrapUpTimer);
  agent.wrapUpTimer = setTimer(state, 'wrapUp', agent, agent.wrapUpUntil);
}

/** The wrap-up is over, by its timer or because the agent said so. */
export function endWrapUp(state: State, agent: Agent): void {
  agent.wrapUpTimer = clearTimer(state, agent.wrapUpTimer);
  agent.wrapUpUntil = 0;
  if (agent.calls.length === 0) agent.idleSince = state.now;
  refreshAgent(state, agent);
  state.todo.push(agent);
}

export function endWrapUpEarly(state: State, personId: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (agent.wrapUpUntil === 0) return 'notWrappingUp';
  endWrapUp(state, agent);
  return null;
}

export function beginRest(state: State, agent: Agent, seconds: number): void {
  if (seconds <= 0) return;
  agent.restsUntil = state.now + seconds * 1000;
  clearTimer(state, agent.restTimer);
  agent.restTimer = setTimer(state, 'rest', agent, agent.restsUntil);
}

export function endRest(state: State, agent: Agent): void {
  agent.restTimer = null;
  agent.restsUntil = 0;
  refreshAgent(state, agent);
  state.todo.push(agent);
}

export function registerPhone(state: State, phoneId: string, address: string): Refusal | null {
  const phone = state.phones.get(phoneId);
  if (phone === undefined) return 'unknownPhone';
  const transition = phone.registration !== 'registered';
  phone.address = address;
  if (!transition) return null;
  phone.registration = 'registered';
  phone.since = state.now;
  phone.why = '';
  const agent = state.agents.get(phone.item.personId);
  if (agent === undefined) return null;
  refreshPhoneFacts(state, agent);
  if (agent.person.signInWithPhone && agent.presence === 'signedOut' && !agent.retired) {
    const refusal = signIn(state, agent.person.id, true);
    if (refusal === null) return null;
    // The phone is registered all the same; without a seat its agent stays signed out.
  }
  refreshAgent(state, agent);
  state.todo.push(agent);
  return null;
}

export function losePhone(
  state: State,
  phoneId: string,
  registration: 'unregistered' | 'refused',
  why: string,
): Refusal | null {
  const phone = state.phones.get(phoneId);
  if (phone === undefined) return 'unknownPhone';
  if (phone.registration !== registration) phone.since = state.now;
  phone.registration = registration;
  phone.why = why;
  phone.address = null;
  const agent = state.agents.get(phone.item.personId);
  if (agent !== undefined) {
    refreshPhoneFacts(state, agent);
    refreshAgent(state, agent);
  }
  return null;
}

/** The agent's choice among their phones; null for whichever can be reached first. */
export function choosePhone(state: State, personId: string, phoneId: string | null): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (phoneId !== null && !agent.phones.some((phone) => phone.item.id === phoneId)) return 'unknownPhone';
  agent.chosenPhoneId = phoneId;
  refreshPhoneFacts(state, agent);
  refreshAgent(state, agent);
  state.todo.push(agent);
  return null;
}

/** Sums up the agent's phones: an open line, else the one that would ring, else why none would. */
export function refreshPhoneFacts(state: State, agent: Agent): void {
  agent.phone = phoneFacts(state, agent);
}

function phoneFacts(state: State, agent: Agent): PhoneFacts {
  if (agent.line !== null) return { state: 'outside', line: 'open' };
  const phone = ringingPhone(state, agent) ?? eligiblePhones(agent)[0];
  if (phone === undefined) return { state: 'none' };
  if (phone.item.kind === 'outside') {
    const trunk = state.trunks.get(phone.item.trunkId ?? '');
    if (trunk === undefined) return { state: 'outside', line: 'trunkGone' };
    return { state: 'outside', line: trunk.isFull ? 'trunkFull' : 'ready' };
  }
  if (phone.registration === 'registered') return { state: 'registered' };
  if (phone.registration === 'refused') return { state: 'refused', why: phone.why };
  return { state: 'unregistered', since: phone.since };
}

/** The phone that would ring for this agent: the chosen one, or the first in ring order that can be reached. */
export function ringingPhone(state: State, agent: Agent): Phone | undefined {
  return eligiblePhones(agent).find((phone) => isReachable(state, phone));
}

/** All that could ring for this agent now, in ring order. */
export function reachablePhones(state: State, agent: Agent): Phone[] {
  return eligiblePhones(agent).filter((phone) => isReachable(state, phone));
}

function isReachable(state: State, phone: Phone): boolean {
  return phone.item.kind === 'outside'
    ? state.trunks.get(phone.item.trunkId ?? '')?.isFull === false
    : phone.registration === 'registered';
}

/** What this phone is, as decisions and stories name it. */
export function reachedBy(phone: Phone | undefined): ReachedBy | null {
  if (phone === undefined) return null;
  return phone.item.kind === 'softphone' && phone.item.home ? 'homeSoftphone' : phone.item.kind;
}

/** Where calls meant for them rest at last: their own voicemail, or the end for who has none. */
export function ownMailbox(agent: Agent | undefined): Destination {
  const id = agent?.person.voicemailBoxId ?? null;
  return id === null ? { kind: 'end' } : { kind: 'voicemail', id };
}

function eligiblePhones(agent: Agent): Phone[] {
  if (agent.chosenPhoneId === null) return agent.phones;
  return agent.phones.filter((phone) => phone.item.id === agent.chosenPhoneId);
}

/**
 * Brings the idle heaps and the counts by reason of all the agent's queues in line with the agent's facts.
 * Every change of an agent ends here.
 */
export function refreshAgent(state: State, agent: Agent): void {
  agent.firstReason = firstReasonIndex(agent, state.now);
  for (const membership of agent.memberships) {
    const queue = membership.queue;
    const before = membership.firstReason;
    const after = membership.reasonNow();
    membership.firstReason = after;
    if (before !== after) {
      if (before >= 0) queue.reasonCounts[before]!--;
      if (after >= 0) queue.reasonCounts[after]!++;
    }
    // Also when eligible before and after: idleSince may have moved.
    queue.idle.remove(membership);
    if (after < 0) queue.idle.push(membership);
    const counts = after < 0 && agent.automatic;
    if (counts !== membership.counted) queue.idleAutomatic += counts ? 1 : -1;
    membership.counted = counts;
  }
  state.out.effects.push({ kind: 'agentChanged', personId: agent.person.id });
}

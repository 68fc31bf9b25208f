import { firstReasonIndex } from '../distribute/eligibility.ts';
import type { Refusal } from './events.ts';
import { type Agent, type Phone, type State, clearTimer, setTimer } from './state.ts';

export function signIn(state: State, personId: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined || agent.retired) return 'unknownPerson';
  if (agent.presence === 'available') return null;
  const wasSignedOut = agent.presence === 'signedOut';
  agent.presence = 'available';
  agent.awayReason = null;
  agent.presenceSince = state.now;
  agent.idleSince = state.now;
  agent.misses = 0;
  if (wasSignedOut) for (const membership of agent.memberships) membership.queue.signedIn++;
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
  refreshPhoneFacts(agent);
  if (agent.person.signInWithPhone && agent.presence === 'signedOut' && !agent.retired) {
    return signIn(state, agent.person.id);
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
    refreshPhoneFacts(agent);
    refreshAgent(state, agent);
  }
  return null;
}

/** Sums up the agent's phones: one registered phone is enough, else the first in ring order speaks. */
export function refreshPhoneFacts(agent: Agent): void {
  const first = agent.phones[0];
  if (first === undefined) agent.phone = { state: 'none' };
  else if (registeredPhone(agent) !== undefined) agent.phone = { state: 'registered' };
  else if (first.registration === 'refused') agent.phone = { state: 'refused', why: first.why };
  else agent.phone = { state: 'unregistered', since: first.since };
}

export function registeredPhone(agent: Agent): Phone | undefined {
  return agent.phones.find((phone) => phone.registration === 'registered');
}

/**
 * Brings the idle heaps and the counts by reason of all the agent's queues in line with the agent's facts.
 * Every change of an agent ends here.
 */
export function refreshAgent(state: State, agent: Agent): void {
  const before = agent.firstReason;
  const after = firstReasonIndex(agent, state.now);
  agent.firstReason = after;
  for (const membership of agent.memberships) {
    const queue = membership.queue;
    if (before !== after) {
      if (before >= 0) queue.reasonCounts[before]!--;
      if (after >= 0) queue.reasonCounts[after]!++;
    }
    // Also when eligible before and after: idleSince may have moved.
    queue.idle.remove(membership);
    if (after < 0) queue.idle.push(membership);
  }
  state.out.effects.push({ kind: 'agentChanged', personId: agent.person.id });
}

import type { Refusal } from '../kernel/events.ts';
import type { State } from '../kernel/state.ts';
import { clearTimers, setTimer, clearTimer } from '../kernel/timers.ts';
import { serveLater } from '../kernel/later.ts';
import type { Agent } from './agent.ts';
import { lookWhoIsLeftOf } from '../queues/ways-out.ts';
import { reindexAgent } from './reindex.ts';

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
  reindexAgent(state, agent);
  // Who waited where nobody was signed in now waits where all are away.
  if (away) lookWhoIsLeftOf(state, agent);
  serveLater(state, agent);
  return null;
}

/** Sets the agent away; an offer that rings is the caller's affair. */
export function markAway(state: State, agent: Agent, reason: string): void {
  agent.presence = 'away';
  agent.awayReason = reason;
  agent.presenceSince = state.now;
  reindexAgent(state, agent);
}

/** Presence, wrap-up and back-off end here; a call in progress goes on. */
export function takeOffDuty(state: State, agent: Agent): void {
  if (agent.presence !== 'signedOut') {
    state.signedIn--;
    for (const membership of agent.memberships) membership.queue.signedIn--;
  }
  agent.presence = 'signedOut';
  agent.awayReason = null;
  agent.presenceSince = state.now;
  agent.wrapUpUntil = 0;
  agent.backOffUntil = 0;
  clearTimers(state, agent);
  reindexAgent(state, agent);
}

export function beginWrapUp(state: State, agent: Agent, seconds: number): void {
  if (seconds <= 0 || agent.presence === 'signedOut') return;
  agent.wrapUpSince = state.now;
  agent.wrapUpUntil = state.now + seconds * 1000;
  setTimer(state, agent, 'wrapUp', agent.wrapUpUntil);
}

/** The wrap-up is over, by its timer or because the agent said so. */
export function endWrapUp(state: State, agent: Agent): void {
  clearTimer(state, agent, 'wrapUp');
  agent.wrapUpUntil = 0;
  if (agent.calls.length === 0) agent.idleSince = state.now;
  reindexAgent(state, agent);
  serveLater(state, agent);
}

export function endWrapUpEarly(state: State, personId: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (agent.wrapUpUntil === 0) return 'notWrappingUp';
  endWrapUp(state, agent);
  return null;
}

/** After an offer that was not taken nobody offers them another for a while. */
export function beginBackOff(state: State, agent: Agent, seconds: number): void {
  if (seconds <= 0) return;
  agent.backOffUntil = state.now + seconds * 1000;
  setTimer(state, agent, 'backOff', agent.backOffUntil);
}

export function endBackOff(state: State, agent: Agent): void {
  agent.backOffUntil = 0;
  reindexAgent(state, agent);
  serveLater(state, agent);
}

/** Somebody who is no longer in the set-up and has nothing left to do. */
export function forgetAgent(state: State, agent: Agent): void {
  clearTimers(state, agent);
  state.agents.delete(agent.person.id);
  for (const trunk of state.trunks.values()) trunk.agents.delete(agent);
}

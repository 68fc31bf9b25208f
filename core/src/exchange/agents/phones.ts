import type { ReachedBy } from '../../distribute/candidates.ts';
import type { PhoneFacts } from '../../distribute/eligibility.ts';
import type { Refusal } from '../kernel/events.ts';
import type { State } from '../kernel/state.ts';
import { serveLater } from '../kernel/later.ts';
import type { Agent, Phone } from './agent.ts';
import { signIn } from './presence.ts';
import { reindexAgent } from './reindex.ts';

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
  reindexAgent(state, agent);
  serveLater(state, agent);
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
    reindexAgent(state, agent);
  }
  return null;
}

/** The agent's choice among their phones; null for whichever can be reached first. */
export function choosePhone(state: State, personId: string, phoneId: string | null): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (phoneId !== null && !agent.phones.some((phone) => phone.item.id === phoneId)) return 'unknownPhone';
  agent.chosenPhoneId = phoneId;
  lookAtPhonesAgain(state, agent);
  return null;
}

/** What the agent is reached on may have changed, and with it whether they can be rung. */
export function lookAtPhonesAgain(state: State, agent: Agent): void {
  refreshPhoneFacts(state, agent);
  reindexAgent(state, agent);
  serveLater(state, agent);
}

/** Sums up the agent's phones: an open line, else the one that would ring, else why none would. */
export function refreshPhoneFacts(state: State, agent: Agent): void {
  agent.phone = phoneFacts(state, agent);
}

function phoneFacts(state: State, agent: Agent): PhoneFacts {
  if (agent.persistentLine !== null) return { state: 'outside', line: 'open' };
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
export function ringingPhone(state: Readonly<State>, agent: Agent): Phone | undefined {
  for (const phone of eligiblePhones(agent)) if (isReachable(state, phone)) return phone;
  return undefined;
}

/** All that could ring for this agent now, in ring order. */
export function reachablePhones(state: Readonly<State>, agent: Agent): Phone[] {
  return eligiblePhones(agent).filter((phone) => isReachable(state, phone));
}

function isReachable(state: Readonly<State>, phone: Phone): boolean {
  return phone.item.kind === 'outside'
    ? state.trunks.get(phone.item.trunkId ?? '')?.isFull === false
    : phone.registration === 'registered';
}

/** What this phone is, as decisions and stories name it. */
export function reachedBy(phone: Phone | undefined): ReachedBy | null {
  if (phone === undefined) return null;
  return phone.item.kind === 'softphone' && phone.item.home ? 'homeSoftphone' : phone.item.kind;
}

function eligiblePhones(agent: Agent): Phone[] {
  if (agent.chosenPhoneId === null) return agent.phones;
  return agent.phones.filter((phone) => phone.item.id === agent.chosenPhoneId);
}

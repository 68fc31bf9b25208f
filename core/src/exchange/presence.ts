import { markAway, takeOffDuty } from './agents.ts';
import type { Refusal } from './events.ts';
import { closeLine } from './lines.ts';
import { leaveRinging } from './offers.ts';
import { emptyQueue } from './queueing.ts';
import type { State } from './state.ts';

export function setAway(state: State, personId: string, reason: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (agent.presence === 'signedOut') return 'notSignedIn';
  markAway(state, agent, reason);
  leaveRinging(state, agent, 'setAway');
  return null;
}

export function signOut(state: State, personId: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (agent.presence === 'signedOut') return null;
  takeOffDuty(state, agent);
  closeLine(state, agent, 'exchange');
  leaveRinging(state, agent, 'signedOut');
  for (const membership of agent.memberships) {
    if (membership.queue.signedIn === 0) emptyQueue(state, membership.queue, 'nobodySignedIn');
  }
  return null;
}

import { markAway, takeOffDuty } from './agents/presence.ts';
import { closePersistentLine } from './agents/persistent-line.ts';
import type { Refusal } from './kernel/events.ts';
import type { State } from './kernel/state.ts';
import { leaveRinging } from './offers/outcome.ts';
import { emptyQueue } from './queues/waiting.ts';

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
  closePersistentLine(state, agent, 'exchange');
  leaveRinging(state, agent, 'signedOut');
  for (const membership of agent.memberships) {
    if (membership.queue.signedIn === 0) emptyQueue(state, membership.queue, 'nobodySignedIn');
  }
  return null;
}

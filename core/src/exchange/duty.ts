import type { Agent } from './agents/agent.ts';
import { markAway, takeOffDuty } from './agents/presence.ts';
import { reindexAgent } from './agents/reindex.ts';
import { closePersistentLine } from './agents/persistent-line.ts';
import type { Refusal } from './kernel/events.ts';
import { serveLater } from './kernel/later.ts';
import type { State } from './kernel/state.ts';
import { leaveRinging } from './offers/outcome.ts';
import { lookWhoIsLeftOf } from './queues/ways-out.ts';

export function setAway(state: State, personId: string, reason: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (agent.presence === 'signedOut') return 'notSignedIn';
  markAway(state, agent, reason);
  // Whom a queue rings while they are away is rung on.
  if (agent.ringing === null || !isRungAnyway(agent, reason)) leaveRinging(state, agent, 'setAway');
  lookWhoIsLeftOf(state, agent);
  // Some queues ring them all the same, for this reason.
  serveLater(state, agent);
  return null;
}

/** Text conversations somebody has open: some queues ring nobody who has many. */
export function countTexts(state: State, personId: string, count: number): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  agent.openTexts = count;
  reindexAgent(state, agent);
  serveLater(state, agent);
  return null;
}

export function signOut(state: State, personId: string): Refusal | null {
  const agent = state.agents.get(personId);
  if (agent === undefined) return 'unknownPerson';
  if (agent.presence === 'signedOut') return null;
  takeOffDuty(state, agent);
  closePersistentLine(state, agent, 'exchange');
  leaveRinging(state, agent, 'signedOut');
  lookWhoIsLeftOf(state, agent);
  return null;
}

/** Whether the queue whose call rings them does so whatever they are away for. */
function isRungAnyway({ ringing }: Agent, reason: string): boolean {
  return ringing?.queue?.rules.ringsAway.includes(reason) === true;
}

import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { Refusal } from '../kernel/events.ts';
import type { State } from '../kernel/state.ts';
import { findLeg, type Leg } from '../media/leg.ts';

/** The call on whose leg somebody talks with a caller; or why that is not so. Contacts are owed who they were called for. */
export function talkingWithCaller(
  state: State,
  legId: string,
): { call: Call; leg: Leg; agent: Agent } | Refusal {
  const found = findLeg(state, legId);
  if (found === null) return 'unknownLeg';
  const { call, leg } = found;
  const agent = call.talkingAgent;
  if (agent === null || leg.personId !== agent.person.id || leg.state !== 'connected')
    return 'legNotConnected';
  // Who is called back is not there yet.
  if (call.activity.kind === 'callingBack') return 'notExpected';
  return call.direction === 'inbound' ? { call, leg, agent } : 'notExpected';
}

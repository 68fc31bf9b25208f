import type { AgentDisplayState } from '../../distribute/candidates.ts';
import type { Agent } from './agent.ts';

/** The one word for what an agent does now; calls count before presence. */
export function displayState(agent: Agent, now: number): { state: AgentDisplayState; since: number } {
  if (agent.calls.length > 0) return { state: 'talking', since: agent.talkingSince };
  if (agent.ringing !== null) return { state: 'ringing', since: agent.ringingSince };
  if (agent.presence === 'signedOut') return { state: 'signedOut', since: agent.presenceSince };
  if (agent.wrapUpUntil > now) return { state: 'wrappingUp', since: agent.wrapUpSince };
  if (agent.presence === 'away') return { state: 'away', since: agent.presenceSince };
  return { state: 'available', since: agent.idleSince };
}

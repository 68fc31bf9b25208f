import { firstReasonIndex } from '../../distribute/eligibility.ts';
import { effect } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import type { Membership } from '../queues/queue.ts';
import type { Agent } from './agent.ts';

/**
 * Brings the indexes of the eligible and the counts by reason of all the agent's queues in line with the agent's facts.
 * Every change of an agent ends here.
 */
export function reindexAgent(state: State, agent: Agent): void {
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
    if (before < 0) queue.idle.remove(membership);
    if (after < 0) membership.enterIndex();
    const counts = after < 0 && agent.autoAnswers;
    if (counts !== membership.counted) queue.idleAutoAnswering += counts ? 1 : -1;
    membership.counted = counts;
  }
  effect(state, { kind: 'agentChanged', personId: agent.person.id });
}

/** Counts a member in: signed in, idle, or by the reason against. */
export function joinQueue(membership: Membership): void {
  const { agent, queue } = membership;
  queue.members.push(membership);
  agent.memberships.push(membership);
  if (agent.presence !== 'signedOut') queue.signedIn++;
  membership.firstReason = membership.reasonNow();
  if (membership.firstReason >= 0) queue.reasonCounts[membership.firstReason]!++;
  else {
    membership.enterIndex();
    membership.counted = agent.autoAnswers;
    if (agent.autoAnswers) queue.idleAutoAnswering++;
  }
}

/** Takes a member out of the queue's index and out of the agent's list; the queue's own list is its caller's affair. */
export function leaveQueueOf(membership: Membership): void {
  if (membership.firstReason < 0) membership.queue.idle.remove(membership);
  if (membership.counted) membership.queue.idleAutoAnswering--;
  const memberships = membership.agent.memberships;
  memberships.splice(memberships.indexOf(membership), 1);
}

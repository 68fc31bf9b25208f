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
    const after = membership.reasonNow(state.now);
    membership.firstReason = after;
    if (before !== after) {
      if (before >= 0) queue.reasonCounts[before]!--;
      if (after >= 0) queue.reasonCounts[after]!++;
    }
    // Also when eligible before and after: idleSince may have moved.
    if (before < 0) queue.idle.remove(membership);
    if (after < 0) membership.enterIndex();
    countMember(membership);
  }
  effect(state, { kind: 'agentChanged', personId: agent.person.id });
}

/** What the queue counts of a member: whether they are there, and whether a campaign can count on them. */
function countMember(membership: Membership): void {
  const { agent, queue, isPresent } = membership;
  if (isPresent !== membership.present) queue.present += isPresent ? 1 : -1;
  membership.present = isPresent;
  // A contact waits two seconds at most: who joins later, or is enough later, is of no use to them.
  const counts = membership.firstReason < 0 && agent.autoAnswers && membership.fitsFrom === 0;
  if (counts !== membership.counted) queue.idleAutoAnswering += counts ? 1 : -1;
  membership.counted = counts;
}

/** Counts a member in: signed in, idle, or by the reason against. */
export function joinQueue(membership: Membership, now: number): void {
  const { agent, queue } = membership;
  queue.members.push(membership);
  agent.memberships.push(membership);
  if (agent.presence !== 'signedOut') queue.signedIn++;
  membership.firstReason = membership.reasonNow(now);
  if (membership.firstReason >= 0) queue.reasonCounts[membership.firstReason]!++;
  else membership.enterIndex();
  countMember(membership);
}

/** Takes a member out of the queue's index and out of the agent's list; the queue's own list is its caller's affair. */
export function leaveQueueOf(membership: Membership): void {
  if (membership.firstReason < 0) membership.queue.idle.remove(membership);
  if (membership.counted) membership.queue.idleAutoAnswering--;
  if (membership.present) membership.queue.present--;
  const memberships = membership.agent.memberships;
  memberships.splice(memberships.indexOf(membership), 1);
}

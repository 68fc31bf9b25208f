import { decisionRecord, ownerIn } from './explain.ts';
import { ringAgent } from './ringing.ts';
import { beginOffer, leaveLine } from './queueing.ts';
import type { ChosenBecause } from './records.ts';
import { type Agent, type Call, callBefore, type Membership, type QueueState, type State } from './state.ts';

/**
 * Serves the queue of a call that began to wait: contacts who answered, then callers, first come first served. Says
 * why when the call itself has to go on waiting.
 */
export function serveCall(state: State, call: Call): void {
  const queue = call.queue;
  if (queue === null || call.heapIndex < 0) return;
  for (let next = queue.answered.peek(); next !== undefined && queue.idleAutomatic > 0;) {
    offer(state, queue, next);
    next = queue.answered.peek();
  }
  for (let next = queue.waiting.peek(); next !== undefined && queue.idle.size > 0;) {
    // Whoever would take this call may owe another queue's caller their turn: the order of callers holds over all.
    const chosen = choose(state, queue, next);
    const { agent } = chosen.member;
    const owed = agent.memberships.length === 1 ? null : first(agent, 'waiting');
    if (owed === null || owed.call === next) offer(state, queue, next, chosen);
    else offer(state, owed.queue, owed.call);
    next = queue.waiting.peek();
  }
  if (call.heapIndex >= 0 && state.out.detail !== 'none') {
    state.out.records.push(decisionRecord(state, queue, call, null, 'nobodyEligible'));
  }
}

/**
 * Of all the queues an idle agent works for, the caller who is first is offered. That offer may go to another
 * member, who has not been tried yet; then the next caller is offered, until the agent is rung or nobody waits.
 */
export function serveAgent(state: State, agent: Agent): void {
  while (agent.firstReason < 0) {
    const next = (agent.automatic ? first(agent, 'answered') : null) ?? first(agent, 'waiting');
    if (next === null) return;
    offer(state, next.queue, next.call);
  }
}

function first(agent: Agent, line: 'answered' | 'waiting'): { queue: QueueState; call: Call } | null {
  let found: { queue: QueueState; call: Call } | null = null;
  for (const { queue, firstReason } of agent.memberships) {
    const call = queue[line].peek();
    if (call === undefined || firstReason >= 0) continue;
    if (found === null || servedBefore(queue, call, found.queue, found.call)) found = { queue, call };
  }
  return found;
}

/** Offers a waiting call to the member chosen. The queue must have an idle member who can take it. */
function offer(state: State, queue: QueueState, call: Call, chosen = choose(state, queue, call)): void {
  const { member, why } = chosen;
  if (state.out.detail !== 'none') state.out.records.push(decisionRecord(state, queue, call, member, why));
  if (why === 'triedAllOthers') call.tried = [];
  leaveLine(call);
  beginOffer(call);
  ringAgent(state, member.agent, call, queue.item.ringSeconds);
}

/**
 * An answered contact goes to the agent who was kept free for the call, when that agent can still take it; else into
 * the line of those who answered.
 */
export function offerToKept(state: State, queue: QueueState, call: Call, kept: Agent): boolean {
  const member = kept.memberships.find((each) => each.queue === queue);
  if (member === undefined || member.heapIndex < 0 || !kept.automatic) return false;
  if (state.out.detail !== 'none')
    state.out.records.push(decisionRecord(state, queue, call, member, 'keptForThis'));
  ringAgent(state, kept, call, queue.item.ringSeconds);
  return true;
}

/**
 * The record's owner first where the queue prefers that; then who is idle longest. An agent who did not take this call
 * is chosen again only when every other one who could was tried. An answered contact needs a phone that answers by
 * itself.
 */
function choose(state: State, queue: QueueState, call: Call): { member: Membership; why: ChosenBecause } {
  const owner = ownerIn(state, queue, call);
  const fits = (member: Membership) => call.direction !== 'outbound' || member.agent.automatic;
  if (owner !== null && owner.heapIndex >= 0 && fits(owner) && !call.tried.includes(owner.personId))
    return { member: owner, why: 'recordOwner' };
  let idlest: Membership | null = null;
  for (const member of queue.idle.inOrder()) {
    if (!fits(member)) continue;
    idlest ??= member;
    if (!call.tried.includes(member.personId)) {
      const free = call.direction === 'outbound' ? queue.idleAutomatic : queue.idle.size;
      return { member, why: free === 1 ? 'onlyOne' : 'longestIdle' };
    }
  }
  if (idlest === null) throw new Error(`offer: nobody in ${queue.item.name} can take ${call.id}`);
  return { member: idlest, why: 'triedAllOthers' };
}

function servedBefore(queue: QueueState, call: Call, otherQueue: QueueState, other: Call): boolean {
  if (queue.item.priority !== otherQueue.item.priority) return queue.item.priority > otherQueue.item.priority;
  return callBefore(call, other);
}

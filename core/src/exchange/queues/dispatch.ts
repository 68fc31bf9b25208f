import type { ChosenBecause } from '../../distribute/decide.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import { callBefore } from '../calls/order.ts';
import { isTold, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { offerTo } from '../offers/ringing.ts';
import { chooseMember } from './choose.ts';
import { decisionRecord } from './explain.ts';
import type { Membership, QueueState } from './queue.ts';
import { countOffer, leaveList } from './waiting.ts';

/**
 * Serves the queue of a call that began to wait: contacts who answered, then callers, first come first served. Says
 * why when the call itself has to go on waiting.
 */
export function serveCall(state: State, call: Call): void {
  const queue = call.queue;
  if (queue === null || call.heapIndex < 0) return;
  for (let next = queue.answered.peek(); next !== undefined && queue.idleAutoAnswering > 0;) {
    offer(state, queue, next);
    next = queue.answered.peek();
  }
  for (let next = queue.waitingList.peek(); next !== undefined && queue.idle.size > 0;) {
    // Whoever would take this call may owe another queue's caller their turn: the order of callers holds over all.
    const chosen = chooseMember(state, queue, next)!;
    const { agent } = chosen.member;
    const owed = agent.memberships.length === 1 ? null : first(agent, 'waitingList');
    if (owed === null || owed.call === next) offer(state, queue, next, chosen);
    else offer(state, owed.queue, owed.call);
    next = queue.waitingList.peek();
  }
  if (call.heapIndex >= 0 && isTold(state))
    note(state, decisionRecord(state, queue, call, null, 'nobodyEligible'));
}

/**
 * Of all the queues an idle agent works for, the caller who is first is offered. That offer may go to another
 * member, who has not been tried yet; then the next caller is offered, until the agent is rung or nobody waits.
 */
export function serveAgent(state: State, agent: Agent): void {
  while (agent.firstReason < 0) {
    const next = (agent.autoAnswers ? first(agent, 'answered') : null) ?? first(agent, 'waitingList');
    if (next === null) return;
    offer(state, next.queue, next.call);
  }
}

function first(agent: Agent, list: 'answered' | 'waitingList'): { queue: QueueState; call: Call } | null {
  let found: { queue: QueueState; call: Call } | null = null;
  for (const { queue, firstReason } of agent.memberships) {
    const call = queue[list].peek();
    if (call === undefined || firstReason >= 0) continue;
    if (found === null || servedBefore(queue, call, found.queue, found.call)) found = { queue, call };
  }
  return found;
}

/** Offers a waiting call to the member chosen. The queue must have an idle member who can take it. */
function offer(
  state: State,
  queue: QueueState,
  call: Call,
  chosen: { member: Membership; why: ChosenBecause } | null = chooseMember(state, queue, call),
): void {
  if (chosen === null) throw new Error(`offer: nobody in ${queue.item.name} can take ${call.id}`);
  const { member, why } = chosen;
  if (isTold(state)) note(state, decisionRecord(state, queue, call, member, why));
  if (why === 'triedAllOthers') call.tried = [];
  leaveList(call);
  countOffer(call);
  offerTo(state, call, [member.agent], queue.item.ringSeconds);
}

/** An answered contact goes to the agent who was reserved for the call, when that agent can still take it. */
export function offerToReserved(state: State, queue: QueueState, call: Call, reserved: Agent): boolean {
  const chosen = chooseMember(state, queue, call, reserved);
  if (chosen?.why !== 'reservedForThis') return false;
  if (isTold(state)) note(state, decisionRecord(state, queue, call, chosen.member, chosen.why));
  offerTo(state, call, [chosen.member.agent], queue.item.ringSeconds);
  return true;
}

function servedBefore(queue: QueueState, call: Call, otherQueue: QueueState, other: Call): boolean {
  if (queue.item.priority !== otherQueue.item.priority) return queue.item.priority > otherQueue.item.priority;
  return callBefore(call, other);
}

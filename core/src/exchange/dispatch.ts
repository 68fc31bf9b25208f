import { decisionRecord } from './explain.ts';
import { ringAgent } from './offers.ts';
import { type Agent, type Call, type Membership, type QueueState, type State, callBefore } from './state.ts';

/**
 * Serves the queue of a call that began to wait, first come first served, and says why when the call itself
 * has to go on waiting.
 */
export function serveCall(state: State, call: Call): void {
  const queue = call.queue;
  if (queue === null || call.heapIndex < 0) return;
  for (
    let first = queue.waiting.peek();
    first !== undefined && queue.idle.size > 0;
    first = queue.waiting.peek()
  ) {
    offer(state, queue, first);
  }
  if (call.heapIndex >= 0 && state.out.detail !== 'none') {
    state.out.records.push(decisionRecord(state, queue, call, null, false));
  }
}

/**
 * Of all the queues an idle agent works for, the caller who is first is offered. That offer may go to another
 * member, who has not been tried yet; then the next caller is offered, until the agent is rung or nobody waits.
 */
export function serveAgent(state: State, agent: Agent): void {
  while (agent.firstReason < 0) {
    const next = firstCaller(agent);
    if (next === null) return;
    offer(state, next.queue, next.call);
  }
}

function firstCaller(agent: Agent): { queue: QueueState; call: Call } | null {
  let first: { queue: QueueState; call: Call } | null = null;
  for (const { queue } of agent.memberships) {
    const call = queue.waiting.peek();
    if (call === undefined) continue;
    if (first === null || servedBefore(queue, call, first.queue, first.call)) first = { queue, call };
  }
  return first;
}

/**
 * Offers a waiting call to the member chosen by the queue's distribution. An agent who did not take this call
 * is chosen again only when every other eligible member was tried. The queue must have an idle member.
 */
function offer(state: State, queue: QueueState, call: Call): void {
  const untried = call.tried.length === 0 ? queue.idle.peek() : firstUntried(queue, call);
  const chosen = untried ?? queue.idle.peek()!;
  if (state.out.detail !== 'none') {
    state.out.records.push(decisionRecord(state, queue, call, chosen, untried === undefined));
  }
  if (untried === undefined) call.tried = [];
  queue.waiting.remove(call);
  queue.offering++;
  ringAgent(state, chosen.agent, call, queue.item.ringSeconds);
}

function firstUntried(queue: QueueState, call: Call): Membership | undefined {
  for (const member of queue.idle.inOrder()) if (!call.tried.includes(member.personId)) return member;
  return undefined;
}

function servedBefore(queue: QueueState, call: Call, otherQueue: QueueState, other: Call): boolean {
  if (queue.item.priority !== otherQueue.item.priority) return queue.item.priority > otherQueue.item.priority;
  return callBefore(call, other);
}

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

/** Of all the queues an idle agent works for, the caller who is first is offered. */
export function serveAgent(state: State, agent: Agent): void {
  if (agent.firstReason >= 0) return;
  let first: Call | undefined;
  let firstQueue: QueueState | undefined;
  for (const membership of agent.memberships) {
    const queue = membership.queue;
    const head = queue.waiting.peek();
    if (head === undefined) continue;
    if (first === undefined || servedBefore(queue, head, firstQueue!, first)) {
      first = head;
      firstQueue = queue;
    }
  }
  if (first !== undefined) offer(state, firstQueue!, first);
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

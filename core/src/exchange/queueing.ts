import type { SentOnBecause } from './records.ts';
import { destinationName } from './explain.ts';
import type { Call, QueueState, State } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';

/** Puts the caller into the queue, or sends them on when a limit says so. */
export function enterQueue(state: State, call: Call, queue: QueueState): void {
  const item = queue.item;
  call.queue = queue;
  call.lastQueueId = item.id;
  call.tried = [];
  call.overdue = false;
  const ahead = queue.waiting.size + queue.offering;
  if (queue.signedIn === 0 && item.whenNobody !== null) return overflow(state, call, 'nobodySignedIn');
  if (item.maxWaiting !== null && ahead >= item.maxWaiting && queue.idle.size === 0) {
    return overflow(state, call, 'queueFull');
  }
  call.enteredAt = state.now;
  call.stage = 'waiting';
  call.stageSince = state.now;
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'enteredQueue',
      queueId: item.id,
      name: item.name,
      ahead: queue.waiting.size,
      signedIn: queue.signedIn,
      otherwise: waysOut(state, queue),
    });
  }
  if (item.maxWaitSeconds !== null) {
    call.maxWaitTimer = setTimer(state, 'maxWait', call, state.now + item.maxWaitSeconds * 1000);
  }
  queue.waiting.push(call);
  state.out.effects.push({ kind: 'play', callId: call.id, leg: call.legs[0]!.id, prompt: 'waiting' });
  state.todo.push(call);
}

/** A contact who answered is put before the queue's callers: an agent must come within two seconds. */
export function enterAnswered(state: State, call: Call, queue: QueueState): void {
  call.queue = queue;
  call.lastQueueId = queue.item.id;
  call.enteredAt = state.now;
  call.tried = [];
  waitAgain(state, call);
}

/** Puts a call back where it waits for an agent of its queue. */
export function waitAgain(state: State, call: Call): void {
  call.stage = 'waiting';
  call.stageSince = state.now;
  lineOf(call)?.push(call);
  state.todo.push(call);
}

/** A caller offered to an agent still counts as waiting for the queue's limits. */
export function beginOffer(call: Call): void {
  if (call.direction === 'inbound') call.queue!.offering++;
}

export function endOffer(call: Call): void {
  if (call.direction === 'inbound') call.queue!.offering--;
}

/** Where this call stands in line: callers, or contacts who answered. */
function lineOf(call: Call) {
  return call.direction === 'outbound' ? call.queue?.answered : call.queue?.waiting;
}

/** Takes the call out of its queue's order. */
export function leaveLine(call: Call): void {
  lineOf(call)?.remove(call);
}

/** Takes the call out of its queue's order and clears its limit; the queue stays noted on the call. */
export function leaveQueue(state: State, call: Call): void {
  leaveLine(call);
  call.maxWaitTimer = clearTimer(state, call.maxWaitTimer);
}

export function waitRanOut(state: State, call: Call): void {
  call.maxWaitTimer = null;
  if (call.stage === 'ringing') call.overdue = true;
  else overflow(state, call, 'waitedTooLong');
}

/** Sends the caller on to where the limit that applies says. */
export function overflow(state: State, call: Call, because: SentOnBecause): void {
  const queue = call.queue!;
  leaveQueue(state, call);
  call.queue = null;
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'sentOn',
      queueId: queue.item.id,
      name: queue.item.name,
      because,
      limit: limitOf(queue, because),
    });
  }
  state.todo.push({ send: call, to: destinationAfter(queue, because) });
}

/** Everybody who waits is sent on: the last member signed out, or the queue is retired. */
export function emptyQueue(state: State, queue: QueueState, because: SentOnBecause): void {
  if (because === 'nobodySignedIn' && queue.item.whenNobody === null) return;
  for (let call = queue.waiting.peek(); call !== undefined; call = queue.waiting.peek()) {
    overflow(state, call, because);
  }
}

function destinationAfter(queue: QueueState, because: SentOnBecause) {
  switch (because) {
    case 'queueFull':
      return queue.item.whenFull;
    case 'waitedTooLong':
      return queue.item.whenTooLong;
    case 'nobodySignedIn':
    case 'queueRetired':
      return queue.item.whenNobody ?? ({ kind: 'end' } as const);
  }
}

function limitOf(queue: QueueState, because: SentOnBecause): number | null {
  if (because === 'queueFull') return queue.item.maxWaiting;
  return because === 'waitedTooLong' ? queue.item.maxWaitSeconds : null;
}

function waysOut(state: State, queue: QueueState) {
  const item = queue.item;
  const ways: { because: SentOnBecause; limit: number | null; name: string }[] = [];
  if (item.whenNobody !== null) {
    ways.push({ because: 'nobodySignedIn', limit: null, name: destinationName(state, item.whenNobody) });
  }
  if (item.maxWaiting !== null) {
    ways.push({ because: 'queueFull', limit: item.maxWaiting, name: destinationName(state, item.whenFull) });
  }
  if (item.maxWaitSeconds !== null) {
    ways.push({
      because: 'waitedTooLong',
      limit: item.maxWaitSeconds,
      name: destinationName(state, item.whenTooLong),
    });
  }
  return ways;
}

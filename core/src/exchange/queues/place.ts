import { ringsAgainAfterSeconds } from '../../model/distribution.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { serveLater } from '../kernel/later.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer, clearTimersBut, setTimer, timerOf } from '../kernel/timers.ts';
import type { QueueState } from './queue.ts';

/** Puts a call where it waits for an agent of its queue. */
export function waitAgain(state: State, call: Call): void {
  begin(call, state.now, { kind: 'waiting' });
  listOf(call)?.push(call);
  serveLater(state, call);
}

/** Where this call stands: among the callers, or the contacts who answered. */
function listOf(call: Call) {
  return call.direction === 'outbound' ? call.queue?.answered : call.queue?.waitingList;
}

/** Takes the call out of its queue's order. */
export function leaveList(state: State, call: Call): void {
  listOf(call)?.remove(call);
  if (!pausesBeforeRinging(call)) return;
  clearTimer(state, call, 'activity');
  call.queue!.pausing--;
}

/** Takes the call out of its queue's order and clears its limits; the queue stays noted on the call. */
export function leaveQueue(state: State, call: Call): void {
  const { kind } = call.activity;
  if (call.queue !== null && (kind === 'waiting' || kind === 'offered'))
    call.queuedMs = state.now - call.joinedAt;
  leaveList(state, call);
  // What is over with the wait; an offer and a contact's two seconds are not of it.
  clearTimersBut(state, call, 'activity', 'connectBy');
}

/** Whether the caller waits without being on the line: they were promised to be called back. */
export const isOffLine = ({ callBack, legs }: Call): boolean =>
  callBack !== null && !legs.some(({ party }) => party === 'caller');

/** What would happen to who waits on the line, and does not to who is called back. */
export function clearLimits(state: State, call: Call): void {
  clearTimersBut(state, call, 'activity', 'stage');
}

/** A caller offered to an agent still counts as waiting for the queue's limits. */
export function countOffer(call: Call): void {
  if (call.direction === 'inbound') call.queue!.offering++;
}

export function uncountOffer(call: Call): void {
  if (call.direction === 'inbound') call.queue!.offering--;
}

/** Whether the call waits until all are rung again, and meanwhile stands in nobody's order. */
export function pausesBeforeRinging(call: Call): boolean {
  return call.activity.kind === 'waiting' && timerOf(call, 'activity') !== null;
}

/** Stands in nobody's order until an instant; for all who ring at once, some seconds. */
export function pauseBeforeRinging(
  state: State,
  call: Call,
  queue: QueueState,
  until = state.now + ringsAgainAfterSeconds * 1_000,
): void {
  begin(call, state.now, { kind: 'waiting' });
  setTimer(state, call, 'activity', until);
  queue.pausing++;
}

/** Callers of this queue before this one, those who are being offered among them. */
export function aheadOf(call: Call, queue: QueueState): number {
  const isInList = call.activity.kind === 'waiting' && !pausesBeforeRinging(call);
  return queue.waitingList.ahead(call) + queue.offering + queue.pausing - (isInList ? 0 : 1);
}

/** The stage of the wait by the clock, and when the next begins. The call stands in no order meanwhile. */
export function beginStage(state: State, call: Call, queue: QueueState): void {
  call.stage = queue.stageOf(call.enteredAt, state.now);
  const next = queue.stages[call.stage];
  if (next === undefined) clearTimer(state, call, 'stage');
  else setTimer(state, call, 'stage', call.enteredAt + next * 1_000);
}

/** Whom we send on, or lose, waits in the next queue as if they had never left the first. */
export function keepPlace(call: Call): void {
  call.waitsSince = call.lastQueueId === null ? call.arrivedAt : call.enteredAt;
}

/** Its orders were made anew: every caller of the queue takes their place in them. */
export function takePlacesAnew(state: State, queue: QueueState): void {
  for (const call of state.calls.values()) {
    if (call.queue !== queue || call.direction !== 'inbound') continue;
    const waits = call.activity.kind === 'waiting';
    if (!waits && call.activity.kind !== 'offered') continue;
    const isInList = call.heapIndex >= 0;
    call.heapIndex = -1;
    beginStage(state, call, queue);
    if (isInList) queue.waitingList.push(call);
    if (isInList) serveLater(state, call);
  }
}

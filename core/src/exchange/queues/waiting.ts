import { nextChange, type OpeningHours, standingAt } from '../../hours/opening-hours.ts';
import { ringsAgainAfterSeconds } from '../../model/distribution.ts';
import type { Destination } from '../../model/destination.ts';
import type { RecordBody, SentOnBecause } from '../../story/records.ts';
import type { Agent } from '../agents/agent.ts';
import { withAnswered } from '../agents/answered-calls.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { isTold, note, play } from '../kernel/journal.ts';
import { destinationName } from '../kernel/names.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer, setTimer, timerOf } from '../kernel/timers.ts';
import { leaveStep, serveLater } from '../kernel/later.ts';
import type { Offer } from '../offers/offer.ts';
import type { QueueState } from './queue.ts';

/** Puts the caller into the queue, or sends them on when a limit says so. */
export function enterQueue(state: State, call: Call, queue: QueueState, priority: number | null): void {
  if (priority !== null) call.priority = priority;
  const item = queue.item;
  call.queue = queue;
  call.lastQueueId = item.id;
  call.tried = [];
  call.overdue = false;
  const ahead = queue.waitingList.size + queue.pausing + queue.offering;
  const hours = hoursOf(state, queue);
  if (hours !== null && standingAt(hours, state.now).state !== 'open') return overflow(state, call, 'closed');
  if (queue.signedIn === 0 && item.whenNobody !== null) return overflow(state, call, 'nobodySignedIn');
  if (item.maxWaiting !== null && ahead >= item.maxWaiting && queue.idle.size === 0) {
    return overflow(state, call, 'queueFull');
  }
  call.enteredAt = state.now;
  begin(call, state.now, { kind: 'waiting' });
  if (isTold(state)) {
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'enteredQueue',
      queueId: item.id,
      name: item.name,
      ahead: queue.waitingList.size + queue.pausing,
      signedIn: queue.signedIn,
      otherwise: limitsOf(state, queue),
    });
  }
  if (item.maxWaitSeconds !== null) setTimer(state, call, 'maxWait', state.now + item.maxWaitSeconds * 1000);
  if (hours !== null) setClosing(state, call, queue, hours);
  queue.waitingList.push(call);
  play(state, call, call.legs[0]!.id, 'waiting');
  serveLater(state, call);
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
  begin(call, state.now, { kind: 'waiting' });
  listOf(call)?.push(call);
  serveLater(state, call);
}

/** A caller offered to an agent still counts as waiting for the queue's limits. */
export function countOffer(call: Call): void {
  if (call.direction === 'inbound') call.queue!.offering++;
}

export function uncountOffer(call: Call): void {
  if (call.direction === 'inbound') call.queue!.offering--;
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

/** Whether the call waits until all are rung again, and meanwhile stands in nobody's order. */
export function pausesBeforeRinging(call: Call): boolean {
  return call.activity.kind === 'waiting' && timerOf(call, 'activity') !== null;
}

function pauseBeforeRinging(state: State, call: Call, queue: QueueState): void {
  begin(call, state.now, { kind: 'waiting' });
  setTimer(state, call, 'activity', state.now + ringsAgainAfterSeconds * 1_000);
  queue.pausing++;
}

/** The pause is over. */
export function ringAgain(state: State, call: Call): void {
  call.queue!.pausing--;
  backToQueue(state, call, call.queue!, 'one');
}

/** Somebody answered a call of this queue: what the order of its members may depend on. */
export function countAnswered(state: State, queue: QueueState, agent: Agent): void {
  agent.answered = withAnswered(agent.answered, state.now);
  const membership = agent.memberships.find((each) => each.queue === queue);
  if (membership !== undefined) queue.lastAnswered = membership.order;
}

/** Takes the call out of its queue's order and clears its limit; the queue stays noted on the call. */
export function leaveQueue(state: State, call: Call): void {
  leaveList(state, call);
  clearTimer(state, call, 'maxWait');
  clearTimer(state, call, 'closing');
}

/** The set the queue follows; null for one that is always open. */
function hoursOf(state: State, { item }: QueueState): OpeningHours | null {
  return state.hours.get(item.hoursId ?? '') ?? null;
}

/** Who waits is looked at again when the queue closes, where callers are sent on then. */
function setClosing(state: State, call: Call, { item }: QueueState, hours: OpeningHours): void {
  const closes = item.atClosing === 'sendOn' ? nextChange(hours, state.now) : null;
  if (closes !== null) setTimer(state, call, 'closing', closes);
}

/** The hours of its queue have changed for a caller who waits, or were changed by somebody. */
export function closingCame(state: State, call: Call): void {
  const { queue } = call;
  const hours = queue === null ? null : hoursOf(state, queue);
  if (queue === null || hours === null) return;
  if (!sendsOn(state, queue)) setClosing(state, call, queue, hours);
  // Who is offered to an agent may still be taken; what follows when they are not is asked then.
  else if (call.activity.kind === 'waiting') overflow(state, call, 'closed');
}

/** Closed, and nobody waits any longer. */
function sendsOn(state: State, queue: QueueState): boolean {
  const hours = hoursOf(state, queue);
  return hours !== null && queue.item.atClosing === 'sendOn' && standingAt(hours, state.now).state !== 'open';
}

/** Sets were changed, or what queues follow: a storm closes at once. */
export function lookAtHoursAgain(state: State): void {
  for (const queue of state.queues.values()) {
    if (queue.item.hoursId == null || queue.waitingList.size + queue.pausing === 0) continue;
    for (const call of state.calls.values())
      if (call.queue === queue && call.activity.kind === 'waiting' && call.direction === 'inbound')
        closingCame(state, call);
  }
}

export function waitRanOut(state: State, call: Call): void {
  if (call.activity.kind === 'offered') call.overdue = true;
  else overflow(state, call, 'waitedTooLong');
}

/** The caller leaves the queue by the exit of the limit that applies, or to where the queue says. */
export function overflow(state: State, call: Call, because: SentOnBecause): void {
  const queue = call.queue!;
  leaveQueue(state, call);
  call.queue = null;
  begin(call, state.now, { kind: 'step' });
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'sentOn',
    queueId: queue.item.id,
    name: queue.item.name,
    because,
    limit: limitOf(queue, because),
  });
  leaveStep(state, call, because, destinationAfter(queue, because));
}

/** Everybody who waits is sent on: the last member signed out, or the queue is retired. */
export function emptyQueue(state: State, queue: QueueState, because: SentOnBecause): void {
  if (because === 'nobodySignedIn' && queue.item.whenNobody === null) return;
  for (let call = queue.waitingList.peek(); call !== undefined; call = queue.waitingList.peek()) {
    overflow(state, call, because);
  }
  if (queue.pausing === 0) return;
  for (const call of [...state.calls.values()])
    if (call.queue === queue && pausesBeforeRinging(call)) overflow(state, call, because);
}

/**
 * An offer of the call, to one or to all, came to nothing: it waits again, or leaves by a limit that was met meanwhile.
 */
export function backToQueue(state: State, call: Call, queue: QueueState, rang: Offer['mode']): void {
  if (call.direction === 'outbound') waitAgain(state, call);
  else if (queue.retired) overflow(state, call, 'queueRetired');
  else if (sendsOn(state, queue)) overflow(state, call, 'closed');
  else if (call.overdue) overflow(state, call, 'waitedTooLong');
  else if (queue.signedIn === 0 && queue.item.whenNobody !== null) overflow(state, call, 'nobodySignedIn');
  else if (rang === 'all') pauseBeforeRinging(state, call, queue);
  else waitAgain(state, call);
}

function destinationAfter({ item }: QueueState, because: SentOnBecause): Destination {
  switch (because) {
    case 'closed':
      return item.whenClosed ?? { kind: 'end' };
    case 'queueFull':
      return item.whenFull;
    case 'waitedTooLong':
      return item.whenTooLong;
    case 'nobodySignedIn':
    case 'queueRetired':
      return item.whenNobody ?? { kind: 'end' };
  }
}

function limitOf({ item }: QueueState, because: SentOnBecause): number | null {
  if (because === 'queueFull') return item.maxWaiting;
  return because === 'waitedTooLong' ? item.maxWaitSeconds : null;
}

/** The limits of the queue that did not apply on entering, and where each would have led. */
function limitsOf(
  state: State,
  queue: QueueState,
): Extract<RecordBody, { kind: 'enteredQueue' }>['otherwise'] {
  const { item } = queue;
  const met: SentOnBecause[] = [];
  if (item.whenNobody !== null) met.push('nobodySignedIn');
  if (item.maxWaiting !== null) met.push('queueFull');
  if (item.maxWaitSeconds !== null) met.push('waitedTooLong');
  return met.map((because) => ({
    because,
    limit: limitOf(queue, because),
    name: destinationName(state, destinationAfter(queue, because)),
  }));
}

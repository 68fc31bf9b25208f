import { nextChange, type OpeningHours, standingAt } from '../../hours/opening-hours.ts';
import type { Destination } from '../../model/destination.ts';
import type { WayOut } from '../../model/waiting.ts';
import type { RecordBody, SentOnBecause } from '../../story/records.ts';
import type { Agent } from '../agents/agent.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { note } from '../kernel/journal.ts';
import { leaveStep, notReachedLater } from '../kernel/later.ts';
import { destinationName } from '../kernel/names.ts';
import type { State } from '../kernel/state.ts';
import { setTimer } from '../kernel/timers.ts';
import { isOffLine, leaveQueue, pausesBeforeRinging } from './place.ts';
import type { QueueState } from './queue.ts';

/** The set the queue follows; null for one that is always open. */
export function hoursOf(state: State, { item }: QueueState): OpeningHours | null {
  return state.hours.get(item.hoursId ?? '') ?? null;
}

/** Who waits is looked at again when the queue closes, where callers are sent on then. */
export function setClosing(state: State, call: Call, { item }: QueueState, hours: OpeningHours): void {
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
  else if (call.activity.kind === 'waiting' && !isOffLine(call)) overflow(state, call, 'closed');
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

/** Why a caller cannot go on waiting in this queue now; null when they can. */
export function whyLeave(state: State, call: Call, queue: QueueState): SentOnBecause | null {
  if (queue.retired) return 'queueRetired';
  // Nobody waits on the line: they are called when somebody is there again.
  if (isOffLine(call)) return null;
  if (sendsOn(state, queue)) return 'closed';
  if (call.overdue) return 'waitedTooLong';
  return whyNobodyCould(queue);
}

/** Nobody is signed in, or all who are are away, and the queue has a way out for that. */
export function whyNobodyCould({ item, signedIn, present }: QueueState): 'nobodySignedIn' | 'allAway' | null {
  if (signedIn === 0) return item.whenNobody === null ? null : 'nobodySignedIn';
  return present === 0 && item.whenAllAway != null ? 'allAway' : null;
}

/** The caller leaves the queue by the exit of the limit that applies, or to where the queue says. */
export function overflow(state: State, call: Call, because: SentOnBecause): void {
  const queue = call.queue!;
  const { item } = queue;
  if (isOffLine(call)) return notReachedLater(state, call, 'noRoute', true);
  leaveQueue(state, call);
  const keepsTime = item.keepsTime?.includes(because as WayOut) === true;
  call.waitsSince = keepsTime ? call.enteredAt : null;
  call.overflows = because === 'pressed' ? 0 : call.overflows + 1;
  call.queue = null;
  begin(call, state.now, { kind: 'step' });
  note(state, {
    ...{ callId: call.id, at: state.now, kind: 'sentOn', queueId: item.id, name: item.name, because },
    ...{ limit: limitOf(queue, because), keepsTime },
    ...(because === 'pressed' ? { key: item.leaveKey ?? '' } : {}),
  });
  leaveStep(state, call, because, destinationAfter(queue, because));
}

/** Everybody who waits is sent on: the last member left, or the queue is retired. */
export function emptyQueue(state: State, queue: QueueState, because: SentOnBecause): void {
  const leaves = (call: Call) => !isOffLine(call) || because === 'queueRetired';
  for (const call of queue.waitingList.inOrder()) if (leaves(call)) overflow(state, call, because);
  if (queue.pausing === 0) return;
  for (const call of [...state.calls.values()])
    if (call.queue === queue && pausesBeforeRinging(call) && leaves(call)) overflow(state, call, because);
}

/** Somebody left, or the set-up changed: where nobody is left who could, callers take the way out for that. */
export function lookWhoIsLeft(state: State, queue: QueueState): void {
  const because = whyNobodyCould(queue);
  if (because !== null) emptyQueue(state, queue, because);
}

export function lookWhoIsLeftOf(state: State, agent: Agent): void {
  for (const { queue } of agent.memberships) lookWhoIsLeft(state, queue);
}

function destinationAfter({ item }: QueueState, because: SentOnBecause): Destination {
  switch (because) {
    case 'closed':
      return item.whenClosed ?? { kind: 'end' };
    case 'queueFull':
      return item.whenFull;
    case 'waitedTooLong':
      return item.whenTooLong;
    case 'allAway':
      return item.whenAllAway ?? { kind: 'end' };
    case 'pressed':
      return item.whenLeaves ?? { kind: 'end' };
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
export function limitsOf(
  state: State,
  queue: QueueState,
): Extract<RecordBody, { kind: 'enteredQueue' }>['otherwise'] {
  const { item } = queue;
  const met: SentOnBecause[] = [];
  if (item.whenNobody !== null) met.push('nobodySignedIn');
  if (item.whenAllAway != null) met.push('allAway');
  if (item.maxWaiting !== null) met.push('queueFull');
  if (item.maxWaitSeconds !== null) met.push('waitedTooLong');
  if (item.leaveKey != null) met.push('pressed');
  return met.map((because) => ({
    because,
    limit: limitOf(queue, because),
    name: destinationName(state, destinationAfter(queue, because)),
  }));
}

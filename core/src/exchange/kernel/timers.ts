import type { HeapNode, IndexedHeap } from '../../collections/indexed-heap.ts';

/** Timers of one instant fire in this order: what sets somebody free first, then overflows (docs/definitions.md). */
export const timerPhase = {
  wrapUp: 0,
  backOff: 0,
  activity: 0,
  askContacts: 0,
  stage: 0,
  maxWait: 1,
  connectBy: 1,
  closing: 1,
  announce: 1,
  offerCallBack: 1,
} as const;

export type TimerName = keyof typeof timerPhase;

/** Who has timers: at most one of each name, all of which end with the owner. */
export interface TimerOwner {
  /** The first of them; each knows the next. */
  timers: Timer | null;
}

/** An entry of the heap of timers. `order` is the count of timers set before it, so that ties are total. */
export interface Timer extends HeapNode {
  at: number;
  order: number;
  name: TimerName;
  phase: number;
  owner: TimerOwner;
  next: Timer | null;
}

/** Where timers run: a heap, and the count of those ever set. */
export interface Timers {
  timers: IndexedHeap<Timer>;
  timerCount: number;
}

export function timerBefore(one: Timer, other: Timer): boolean {
  if (one.at !== other.at) return one.at < other.at;
  if (one.phase !== other.phase) return one.phase < other.phase;
  return one.order < other.order;
}

export function timerOf(owner: TimerOwner, name: TimerName): Timer | null {
  for (let timer = owner.timers; timer !== null; timer = timer.next) if (timer.name === name) return timer;
  return null;
}

/** Sets the owner's timer of this name to `at`, whether one ran or not. */
export function setTimer(state: Timers, owner: TimerOwner, name: TimerName, at: number): void {
  clearTimer(state, owner, name);
  owner.timers = startTimer(state, owner, name, at, state.timerCount++, owner.timers);
}

/** Has a timer run before those in `next`; whoever asks knows that none of this name does. */
export function startTimer(
  { timers }: Pick<Timers, 'timers'>,
  owner: TimerOwner,
  name: TimerName,
  at: number,
  order: number,
  next: Timer | null,
): Timer {
  const timer: Timer = { at, order, name, phase: timerPhase[name], owner, next, heapIndex: -1 };
  timers.push(timer);
  return timer;
}

export function clearTimer(state: Timers, owner: TimerOwner, name: TimerName): void {
  let before: Timer | null = null;
  for (let timer = owner.timers; timer !== null; timer = timer.next) {
    if (timer.name === name) {
      if (before === null) owner.timers = timer.next;
      else before.next = timer.next;
      state.timers.remove(timer);
      return;
    }
    before = timer;
  }
}

/** Ends all timers of the owner but those of two names. */
export function clearTimersBut(state: Timers, owner: TimerOwner, kept: TimerName, andKept: TimerName): void {
  let before: Timer | null = null;
  for (let timer = owner.timers; timer !== null; timer = timer.next) {
    if (timer.name === kept || timer.name === andKept) {
      before = timer;
      continue;
    }
    if (before === null) owner.timers = timer.next;
    else before.next = timer.next;
    state.timers.remove(timer);
  }
}

/** The owner has ended, and all its timers with it. */
export function clearTimers(state: Timers, owner: TimerOwner): void {
  for (let timer = owner.timers; timer !== null; timer = timer.next) state.timers.remove(timer);
  owner.timers = null;
}

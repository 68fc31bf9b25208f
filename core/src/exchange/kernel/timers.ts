import type { HeapNode, IndexedHeap } from '../../collections/indexed-heap.ts';

/** Timers of one instant fire in this order: what sets somebody free first, then overflows (docs/definitions.md). */
export const timerPhase = {
  wrapUp: 0,
  backOff: 0,
  activity: 0,
  askContacts: 0,
  maxWait: 1,
  connectBy: 1,
} as const;

export type TimerName = keyof typeof timerPhase;

/** Who has timers: at most one of each name, all of which end with the owner. */
export interface TimerOwner {
  timers: Timer[];
}

/** An entry of the heap of timers. `order` is the count of timers set before it, so that ties are total. */
export interface Timer extends HeapNode {
  at: number;
  order: number;
  name: TimerName;
  owner: TimerOwner;
}

/** Where timers run: a heap, and the count of those ever set. */
export interface Timers {
  timers: IndexedHeap<Timer>;
  timerCount: number;
}

export function timerBefore(one: Timer, other: Timer): boolean {
  if (one.at !== other.at) return one.at < other.at;
  const byPhase = timerPhase[one.name] - timerPhase[other.name];
  if (byPhase !== 0) return byPhase < 0;
  return one.order < other.order;
}

export function timerOf(owner: TimerOwner, name: TimerName): Timer | null {
  const timers = owner.timers;
  for (let i = 0; i < timers.length; i++) if (timers[i]!.name === name) return timers[i]!;
  return null;
}

/** Sets the owner's timer of this name to `at`, whether one ran or not. */
export function setTimer(state: Timers, owner: TimerOwner, name: TimerName, at: number): void {
  clearTimer(state, owner, name);
  const timer = { at, order: state.timerCount++, name, owner, heapIndex: -1 };
  owner.timers.push(timer);
  state.timers.push(timer);
}

export function clearTimer(state: Timers, owner: TimerOwner, name: TimerName): void {
  const timer = timerOf(owner, name);
  if (timer === null) return;
  owner.timers.splice(owner.timers.indexOf(timer), 1);
  state.timers.remove(timer);
}

/** The owner has ended, and all its timers with it. */
export function clearTimers(state: Timers, owner: TimerOwner): void {
  for (const timer of owner.timers) state.timers.remove(timer);
  owner.timers.length = 0;
}

import type { HeapNode, IndexedHeap } from './heap.ts';

/** Timers of one instant fire in this order: releases first, then overflows (docs/definitions.md). */
export const timerClass = {
  wrapUp: 0,
  rest: 0,
  ring: 0,
  accept: 0,
  message: 0,
  askContacts: 0,
  maxWait: 1,
  connectBy: 1,
} as const;

export type TimerKind = keyof typeof timerClass;

/** An entry of the timer heap. `order` is the count of timers set before it, so that ties are total. */
export interface TimerOf<Owner> extends HeapNode {
  at: number;
  order: number;
  kind: TimerKind;
  owner: Owner;
}

/** Where timers run: a heap, and the count of those ever set. */
interface Timers<Owner> {
  timers: IndexedHeap<TimerOf<Owner>>;
  timerCount: number;
}

export function timerBefore(one: TimerOf<unknown>, other: TimerOf<unknown>): boolean {
  if (one.at !== other.at) return one.at < other.at;
  const byClass = timerClass[one.kind] - timerClass[other.kind];
  if (byClass !== 0) return byClass < 0;
  return one.order < other.order;
}

export function setTimer<Owner>(
  state: Timers<Owner>,
  kind: TimerKind,
  owner: Owner,
  at: number,
): TimerOf<Owner> {
  const timer = { at, order: state.timerCount++, kind, owner, heapIndex: -1 };
  state.timers.push(timer);
  return timer;
}

export function clearTimer<Owner>(state: Timers<Owner>, timer: TimerOf<Owner> | null): null {
  if (timer !== null) state.timers.remove(timer);
  return null;
}

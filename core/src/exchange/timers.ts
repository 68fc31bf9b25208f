import type { HeapNode } from './heap.ts';
import type { Agent, Call, Campaign, State } from './state.ts';

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
export interface Timer extends HeapNode {
  at: number;
  order: number;
  kind: TimerKind;
  owner: Agent | Call | Campaign;
}

export function timerBefore(one: Timer, other: Timer): boolean {
  if (one.at !== other.at) return one.at < other.at;
  const byClass = timerClass[one.kind] - timerClass[other.kind];
  if (byClass !== 0) return byClass < 0;
  return one.order < other.order;
}

export function setTimer(state: State, kind: TimerKind, owner: Timer['owner'], at: number): Timer {
  const timer: Timer = { at, order: state.timerCount++, kind, owner, heapIndex: -1 };
  state.timers.push(timer);
  return timer;
}

export function clearTimer(state: State, timer: Timer | null): null {
  if (timer !== null) state.timers.remove(timer);
  return null;
}

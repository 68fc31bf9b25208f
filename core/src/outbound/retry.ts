import type { ZoneClock } from '../hours/zone-clock.ts';
import { type CallingHours, nextCallable } from './window.ts';

/** How an attempt to reach a contact ended. */
export type AttemptResult =
  | 'answered'
  | 'abandoned'
  | 'machine'
  | 'noAnswer'
  | 'busy'
  | 'refused'
  | 'noRoute'
  | 'congestion'
  | 'unreachable'
  | 'hungUp'
  | 'optedOut'
  /** It was in the air when the exchange lost its state: it counts, what came of it is not known. */
  | 'lost';

/** Where a contact stands. */
export type ContactState = 'due' | 'talked' | 'optedOut' | 'unreached' | 'invalid';

export interface RetryRules {
  /** Attempts at most, from 1. */
  attempts: number;
  /** Minutes until the next one. */
  retryMinutes: number;
  hours: CallingHours;
}

/** A busy line is tried again sooner than one that rang out, never later than the campaign's own gap. */
const busyMinutes = 15;

/**
 * What becomes of a contact after attempt number `attempt` ended at `at` (UTC milliseconds): done for good, or due
 * again. `dueAt` is the due key: never before the gap is over, and within the calling hours of all the contact's
 * clocks. A number that does not exist (`noRoute`) is not tried again.
 */
export function afterAttempt(
  result: AttemptResult,
  attempt: number,
  at: number,
  clocks: readonly ZoneClock[],
  rules: RetryRules,
): { state: ContactState; dueAt: number | null } {
  switch (result) {
    case 'answered':
      return { state: 'talked', dueAt: null };
    case 'optedOut':
      return { state: 'optedOut', dueAt: null };
    case 'noRoute':
      return { state: 'invalid', dueAt: null };
    case 'busy':
      return again(Math.min(busyMinutes, rules.retryMinutes));
    case 'abandoned':
    case 'machine':
    case 'noAnswer':
    case 'refused':
    case 'congestion':
    case 'unreachable':
    case 'hungUp':
    case 'lost':
      return again(rules.retryMinutes);
  }

  function again(minutes: number): { state: ContactState; dueAt: number | null } {
    if (attempt >= rules.attempts) return { state: 'unreached', dueAt: null };
    const dueAt = dueKey(at + minutes * 60_000, clocks, rules.hours);
    return dueAt === null ? { state: 'unreached', dueAt: null } : { state: 'due', dueAt };
  }
}

/** The first instant at or after `from` at which the contact may be called; null when there is none. */
export function dueKey(from: number, clocks: readonly ZoneClock[], hours: CallingHours): number | null {
  return nextCallable(from, clocks, hours)?.from ?? null;
}

import { dayMs } from '../hours/civil.ts';
import { instantOfReading, localReading, minuteMs, type ZoneClock } from '../hours/zone-clock.ts';

/**
 * Hours in which a contact may be called, at the contact's own clock, half-open [from, to). Default 8:00 to 21:00, the
 * hours of the United States' telephone rules (47 CFR 64.1200(c)(1)).
 */
export interface CallingHours {
  /** Minutes of the local day, 0 to 1440; `from` before `to`. */
  from: number;
  to: number;
}

export const usualCallingHours: CallingHours = { from: 8 * 60, to: 21 * 60 };

const farthestMs = 8 * dayMs;

/**
 * The first stretch at or after `at` in which every one of the clocks is within the hours: half-open [from, until), UTC
 * milliseconds. A number whose zone is uncertain brings all its possible clocks. Null when they have none in common
 * within eight days, or when no clock is known.
 */
export function nextCallable(
  at: number,
  clocks: readonly ZoneClock[],
  hours: CallingHours,
): { from: number; until: number } | null {
  if (clocks.length === 0 || hours.from >= hours.to) return null;
  let from = at;
  while (from < at + farthestMs) {
    const opens = Math.max(...clocks.map((clock) => opening(clock, from, hours)));
    if (opens === from)
      return { from, until: Math.min(...clocks.map((clock) => closing(clock, from, hours))) };
    from = opens;
  }
  return null;
}

/** `at` itself when the clock is within the hours, else the instant it next is. */
function opening(clock: ZoneClock, at: number, hours: CallingHours): number {
  const reading = localReading(clock, at);
  const midnight = Math.floor(reading / dayMs) * dayMs;
  const minute = (reading - midnight) / minuteMs;
  if (minute >= hours.from && minute < hours.to) return at;
  const day = minute < hours.from ? midnight : midnight + dayMs;
  return Math.max(at, instantOfReading(clock, day + hours.from * minuteMs));
}

function closing(clock: ZoneClock, at: number, hours: CallingHours): number {
  const midnight = Math.floor(localReading(clock, at) / dayMs) * dayMs;
  return instantOfReading(clock, midnight + hours.to * minuteMs);
}

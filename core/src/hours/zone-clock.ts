import { dayMs } from './civil.ts';
/**
 * Local time without zone data of its own: the host hands in when a zone's distance from UTC changes. Instants are
 * UTC milliseconds; a local reading is the milliseconds since 1970 that the wall clock shows.
 */
export interface ZoneClock {
  /** IANA name, for people. */
  zone: string;
  /**
   * From each instant on, minutes ahead of UTC; by instant. The first entry holds for everything before the second.
   */
  changes: readonly (readonly [at: number, minutesAhead: number])[];
}

export const minuteMs = 60_000;

export const utcClock: ZoneClock = { zone: 'UTC', changes: [[0, 0]] };

/** Milliseconds the zone is ahead of UTC at `at`. */
export function aheadOfUtc(clock: ZoneClock, at: number): number {
  let low = 0;
  let high = clock.changes.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (clock.changes[middle]![0] <= at) low = middle;
    else high = middle - 1;
  }
  return (clock.changes[low]?.[1] ?? 0) * minuteMs;
}

/** The wall clock's reading at `at`. */
export function localReading(clock: ZoneClock, at: number): number {
  return at + aheadOfUtc(clock, at);
}

/**
 * The instant of a local reading. A reading that spring skips is the instant the clocks jump over it; of a reading
 * that autumn repeats, the first.
 */
export function instantOfReading(clock: ZoneClock, reading: number): number {
  const candidates = [reading - dayMs, reading + dayMs].map((near) => reading - aheadOfUtc(clock, near));
  const exact = candidates.filter((at) => localReading(clock, at) === reading);
  if (exact.length > 0) return Math.min(...exact);
  const jump = clock.changes.find(
    ([at]) => at > Math.min(...candidates) - dayMs && localReading(clock, at) > reading,
  );
  return jump === undefined ? Math.max(...candidates) : jump[0];
}

/** The number of the local day that holds `at`: days of the wall clock since 1970. */
export function localDay(clock: ZoneClock, at: number): number {
  return Math.floor(localReading(clock, at) / dayMs);
}

/** The instant at which a local day begins. */
export function dayBegins(clock: ZoneClock, day: number): number {
  return instantOfReading(clock, day * dayMs);
}

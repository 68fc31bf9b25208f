/**
 * Opening hours: when a place is open, by the local clock of its zone. The rules are those of docs/definitions.md,
 * "Opening hours": a range is half-open; one that ends at or before its start runs into the next day and belongs to the
 * day it starts on; a special day replaces the ranges that start on it, and the evening before may still spill over.
 */
import { dateOfDay, dayMs, weekdayOf } from './civil.ts';
import {
  aheadOfUtc,
  dayBegins,
  instantOfReading,
  localDay,
  localReading,
  minuteMs,
  type ZoneClock,
} from './zone-clock.ts';

/** From and to, minutes of the day: 0 to 1439, and 0 to 1440. `to <= from` ends on the next day. */
export type Range = readonly [from: number, to: number];

/** A day that is not as its weekday. No range: closed all day. */
export interface SpecialDay {
  /** Local date, YYYY-MM-DD. */
  date: string;
  /** What it is called: 'Thanksgiving'. */
  name: string;
  /** A holiday has a way out of its own in a plan; a one-off change is just other hours. */
  holiday: boolean;
  ranges: readonly Range[];
}

/** Closed all the same, until an instant: nobody comes in a storm. */
export interface Storm {
  since: number;
  until: number;
}

/** A named set, compiled: plain data. Monday is the first of the week. */
export interface OpeningHours {
  id: string;
  name: string;
  clock: ZoneClock;
  weekly: readonly (readonly Range[])[];
  /** By date. */
  days: Readonly<Record<string, SpecialDay>>;
  storm: Storm | null;
}

export type OpenState = 'open' | 'closed' | 'holiday' | 'storm';

/** How a set stands at an instant. */
export interface Standing {
  state: OpenState;
  /** The special day that has a say in it. */
  day: SpecialDay | null;
}

export const minutesADay = 1_440;
/** No further than this is a next change looked for. */
export const daysAhead = 400;

/** The ranges that start on a local day. */
export function rangesOf(hours: OpeningHours, day: number): readonly Range[] {
  return specialDay(hours, day)?.ranges ?? hours.weekly[weekdayOf(day)] ?? [];
}

/** The dates of the day asked last and of its neighbour: calls ask for today and yesterday, again and again. */
const asked = [
  { day: Number.NaN, date: '' },
  { day: Number.NaN, date: '' },
] as const;

function dateAsked(day: number): string {
  const slot = asked[day & 1 ? 1 : 0];
  if (slot.day !== day) Object.assign(slot, { day, date: dateOfDay(day) });
  return slot.date;
}

function specialDay(hours: OpeningHours, day: number): SpecialDay | null {
  return hours.days[dateAsked(day)] ?? null;
}

/** Length in minutes of a range as the wall clock shows it. */
export function lengthOf([from, to]: Range): number {
  return to > from ? to - from : to + minutesADay - from;
}

function isOpenByClock(hours: OpeningHours, at: number): boolean {
  const reading = localReading(hours.clock, at);
  const day = Math.floor(reading / dayMs);
  const minute = (reading - day * dayMs) / minuteMs;
  for (const [from, to] of rangesOf(hours, day))
    if (minute >= from && (to <= from || minute < to)) return true;
  for (const [from, to] of rangesOf(hours, day - 1)) if (to <= from && minute < to) return true;
  return false;
}

/** How the set stands at `at`. A storm goes before everything; a holiday's own hours are open as any others. */
export function standingAt(hours: OpeningHours, at: number): Standing {
  const { storm } = hours;
  const day = specialDay(hours, localDay(hours.clock, at));
  if (storm !== null && at >= storm.since && at < storm.until) return { state: 'storm', day };
  if (isOpenByClock(hours, at)) return { state: 'open', day };
  return { state: day?.holiday === true ? 'holiday' : 'closed', day };
}

export function isOpenAt(hours: OpeningHours, at: number): boolean {
  return standingAt(hours, at).state === 'open';
}

/**
 * The first instant after `at` at which it opens or closes; ranges that touch are one. Null when there is none up to
 * `limit`, `daysAhead` days later unless said.
 */
export function nextChange(hours: OpeningHours, at: number, limit = at + daysAhead * dayMs): number | null {
  if (neverChanges(hours)) return null;
  const open = isOpenAt(hours, at);
  for (let day = localDay(hours.clock, at); ; day++) {
    const begins = dayBegins(hours.clock, day);
    if (begins > limit) return null;
    const until = dayBegins(hours.clock, day + 1);
    let found = Number.POSITIVE_INFINITY;
    const look = (instant: number) => {
      if (
        instant > at &&
        instant >= begins &&
        instant < Math.min(until, found) &&
        isOpenAt(hours, instant) !== open
      )
        found = instant;
    };
    look(begins);
    if (hours.storm !== null) {
      look(hours.storm.since);
      look(hours.storm.until);
    }
    if (isPlainDay(hours.clock, begins, until)) lookAtPlainDay(hours, day, begins, look);
    else for (const instant of boundariesAround(hours, day)) look(instant);
    if (found <= limit) return found;
    if (found !== Number.POSITIVE_INFINITY) return null;
  }
}

/** Open day and night all year, or never: hundreds of days need not be looked through for that. */
function neverChanges({ weekly, days, storm }: OpeningHours): boolean {
  if (storm !== null || Object.keys(days).length > 0) return false;
  const whole = (ranges: readonly Range[]) =>
    ranges.length === 1 && ranges[0]![0] === 0 && ranges[0]![1] === minutesADay;
  return weekly.every(whole) || weekly.every((ranges) => ranges.length === 0);
}

/** No clock changes on it or on the days beside it: a minute of the day is an instant by addition. */
function isPlainDay(clock: ZoneClock, begins: number, until: number): boolean {
  return until - begins === dayMs && aheadOfUtc(clock, begins - dayMs) === aheadOfUtc(clock, until + dayMs);
}

function lookAtPlainDay(
  hours: OpeningHours,
  day: number,
  begins: number,
  look: (instant: number) => void,
): void {
  for (const [from, to] of rangesOf(hours, day)) {
    look(begins + from * minuteMs);
    if (to > from) look(begins + to * minuteMs);
  }
  for (const [from, to] of rangesOf(hours, day - 1)) if (to <= from) look(begins + to * minuteMs);
}

/** All that can happen on a day near which clocks change. */
function boundariesAround(hours: OpeningHours, day: number): number[] {
  return [
    ...[day - 1, day].flatMap((each) => boundariesOf(hours, each)),
    ...hours.clock.changes.map(([at]) => at),
  ];
}

/** Every instant at which a range that starts on this day begins or ends; a reading that autumn repeats gives two. */
function boundariesOf(hours: OpeningHours, day: number): number[] {
  const { clock } = hours;
  return rangesOf(hours, day).flatMap(([from, to]) =>
    [from, to > from ? to : to + minutesADay].flatMap((minute) => {
      const reading = day * dayMs + minute * minuteMs;
      return [
        instantOfReading(clock, reading),
        ...[reading - dayMs, reading + dayMs].map((near) => reading - aheadOfUtc(clock, near)),
      ];
    }),
  );
}

/** Milliseconds it is open on a local day, in real time: a day may have 23 or 25 hours. */
export function openMsOn(hours: OpeningHours, day: number): number {
  const end = dayBegins(hours.clock, day + 1);
  let open = 0;
  for (let at = dayBegins(hours.clock, day); at < end;) {
    const next = Math.min(nextChange(hours, at, end) ?? end, end);
    if (isOpenAt(hours, at)) open += next - at;
    at = next;
  }
  return open;
}

/** The next day from `at` on that is not as its weekday; null when none is known. */
export function nextSpecialDay(hours: OpeningHours, at: number): SpecialDay | null {
  const today = dateOfDay(localDay(hours.clock, at));
  const dates = Object.keys(hours.days)
    .filter((date) => date >= today)
    .sort();
  return dates.length === 0 ? null : hours.days[dates[0]!]!;
}

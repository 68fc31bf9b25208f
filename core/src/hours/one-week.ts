import { dateOfDay, weekdayOf } from './civil.ts';
import type { Range } from './opening-hours.ts';
import type { Week } from './week.ts';

/** A day that is not as its weekday. */
export interface UnusualDay {
  /** YYYY-MM-DD */
  date: string;
  name: string;
  holiday: boolean;
  ranges: readonly Range[];
}

/** The Monday of the week in which a day lies (days since 1 January 1970). */
export const mondayOf = (day: number): number => day - weekdayOf(day);

/** One week as it is: every day as its weekday, but for those that are unusual. `monday` in days since 1970. */
export function weekAt(weekly: Week, days: readonly UnusualDay[], monday: number): Week {
  const byDate = new Map(days.map((day) => [day.date, day]));
  return weekly.map((ranges, weekday) => byDate.get(dateOfDay(monday + weekday))?.ranges ?? ranges);
}

const same = (one: readonly Range[], other: readonly Range[]) =>
  one.length === other.length && one.every(([from, to], i) => from === other[i]![0] && to === other[i]![1]);

/**
 * The unusual days with this one week as it was drawn. A day that is as its weekday again, and was only a change of its
 * hours, is unusual no more; a holiday stays one.
 */
export function withWeekAt<Day extends UnusualDay>(
  weekly: Week,
  days: readonly Day[],
  monday: number,
  drawn: Week,
): (Day | UnusualDay)[] {
  const before = weekAt(weekly, days, monday);
  const next: (Day | UnusualDay)[] = [...days];
  drawn.forEach((ranges, weekday) => {
    if (same(ranges, before[weekday]!)) return;
    const date = dateOfDay(monday + weekday);
    const at = next.findIndex((day) => day.date === date);
    const day = next[at] ?? { date, name: '', holiday: false, ranges };
    const isUsual = same(ranges, weekly[weekday]!) && !day.holiday && day.name === '';
    next.splice(at < 0 ? next.length : at, at < 0 ? 0 : 1, ...(isUsual ? [] : [{ ...day, ranges }]));
  });
  return next;
}

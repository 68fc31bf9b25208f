import { lengthOf, minutesADay, type Range } from './opening-hours.ts';

/**
 * Ranges of one day, by their start, with those that touch or overlap made one. What one range cannot say, being longer
 * than a day, stays as it is.
 */
export function tidied(ranges: readonly Range[]): Range[] {
  const sorted = ranges
    .map((range): [number, number] => [range[0], range[0] + lengthOf(range)])
    .sort((one, other) => one[0] - other[0]);
  const joined: [number, number][] = [];
  for (const range of sorted) {
    const last = joined.at(-1);
    if (last === undefined || range[0] > last[1]) joined.push(range);
    else if (range[1] <= last[1]) continue;
    else if (range[1] - last[0] < minutesADay || (last[0] === 0 && range[1] === minutesADay))
      last[1] = range[1];
    else joined.push(range);
  }
  return joined.map(([from, to]) => [from, to > minutesADay ? to - minutesADay : to]);
}

/** Whether a range may be: minutes in their bounds, and of some length. */
export function isRange([from, to]: Range): boolean {
  return from >= 0 && from < minutesADay && to >= 0 && to <= minutesADay && from !== to;
}

/** Two of a day's ranges that overlap; null when none do. */
export function overlapping(ranges: readonly Range[]): [Range, Range] | null {
  const sorted = [...ranges].sort((one, other) => one[0] - other[0]);
  for (let i = 1; i < sorted.length; i++) {
    const before = sorted[i - 1]!;
    if (sorted[i]![0] < before[0] + lengthOf(before)) return [before, sorted[i]!];
  }
  return null;
}

/** '09:00', and '24:00' for the end of the day. */
export function clockText(minute: number): string {
  return `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
}

/** Minutes of '9', '9:30', '09.30', '0930', '5 pm'; null for what is no time. */
export function minuteOf(text: string): number | null {
  const found = /^\s*(\d{1,2})(?:[:.h]?(\d{2}))?\s*(am|pm)?\s*$/i.exec(text);
  if (found === null) return null;
  let hour = Number(found[1]);
  const minute = Number(found[2] ?? 0);
  const half = found[3]?.toLowerCase();
  if (half !== undefined && (hour < 1 || hour > 12)) return null;
  if (half === 'pm' && hour < 12) hour += 12;
  if (half === 'am' && hour === 12) hour = 0;
  const total = hour * 60 + minute;
  return minute > 59 || total > minutesADay ? null : total;
}

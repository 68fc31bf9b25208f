import { lengthOf, minutesADay, type Range } from './opening-hours.ts';
import { clockText, isRange, minuteOf, overlapping } from './ranges.ts';

/** Seven days, Monday first, as they are edited: every change gives a new week in which nothing overlaps. */
export type Week = readonly (readonly Range[])[];

const minutesAWeek = 7 * minutesADay;
/** No range is shorter than this while it is dragged. */
const least = 1;

interface Span {
  day: number;
  index: number;
  from: number;
  to: number;
}

/** Every range in minutes of the week, by its start. */
function spans(week: Week): Span[] {
  return week
    .flatMap((ranges, day) =>
      ranges.map((range, index) => {
        const from = day * minutesADay + range[0];
        return { day, index, from, to: from + lengthOf(range) };
      }),
    )
    .sort((one, other) => one.from - other.from);
}

function withDay(week: Week, day: number, ranges: readonly Range[]): Week {
  return week.map((before, each) =>
    each === day ? [...ranges].sort((one, other) => one[0] - other[0]) : before,
  );
}

function rangeOf(day: number, from: number, to: number): Range {
  const start = from - day * minutesADay;
  const end = to - day * minutesADay;
  return [start, end > minutesADay ? end - minutesADay : end];
}

/**
 * Moves an end of a range, or all of it, by minutes; as far as its neighbours and its own day let it. The start stays
 * within the day, the end runs into the next day up to the next opening. Gives back the same week when nothing moves.
 */
export function moved(
  week: Week,
  day: number,
  index: number,
  what: 'from' | 'to' | 'both',
  by: number,
): Week {
  const all = spans(week);
  const at = all.findIndex((each) => each.day === day && each.index === index);
  if (at < 0) return week;
  const { from, to } = all[at]!;
  const before = all[(at + all.length - 1) % all.length]!;
  const after = all[(at + 1) % all.length]!;
  // Alone in the week, it is its own neighbour, a week away.
  const earliest = Math.max(day * minutesADay, at === 0 ? before.to - minutesAWeek : before.to);
  const latest = at === all.length - 1 ? after.from + minutesAWeek : after.from;
  const clamp = (value: number, low: number, high: number) => Math.max(low, Math.min(high, value));
  let next: Range;
  if (what === 'from')
    next = rangeOf(
      day,
      clamp(from + by, earliest, Math.min(to - least, day * minutesADay + minutesADay - 1)),
      to,
    );
  else if (what === 'to')
    next = rangeOf(
      day,
      from,
      clamp(to + by, from + least, Math.min(latest, from + minutesADay - (from % minutesADay === 0 ? 0 : 1))),
    );
  else {
    const low = earliest - from;
    const high = Math.min(latest - to, day * minutesADay + minutesADay - 1 - from);
    const shift = clamp(by, Math.min(low, 0), Math.max(high, 0));
    next = rangeOf(day, from + shift, to + shift);
  }
  const current = week[day]![index]!;
  if (!isRange(next) || (next[0] === current[0] && next[1] === current[1])) return week;
  return withDay(
    week,
    day,
    week[day]!.map((range, each) => (each === index ? next : range)),
  );
}

/** With a range more; null when it overlaps another, also one that runs over from the day before. */
export function withRange(week: Week, day: number, range: Range): Week | null {
  if (!isRange(range)) return null;
  const next = withDay(week, day, [...week[day]!, range]);
  return weekOverlaps(next) ? null : next;
}

/** With a range as it is typed; null when it cannot be so. */
export function replaced(week: Week, day: number, index: number, range: Range): Week | null {
  return withRange(without(week, day, index), day, range);
}

export function without(week: Week, day: number, index: number): Week {
  return withDay(
    week,
    day,
    week[day]!.filter((_, each) => each !== index),
  );
}

/** The day's ranges on other days too; null when that makes two overlap. */
export function copied(week: Week, day: number, to: readonly number[]): Week | null {
  const next = week.map((ranges, each) => (to.includes(each) ? week[day]! : ranges));
  return weekOverlaps(next) ? null : next;
}

/** Whether two ranges of the week overlap, also over midnight. */
export function weekOverlaps(week: Week): boolean {
  const all = spans(week);
  return all.some((each, at) => {
    const after = all[(at + 1) % all.length]!;
    const next = at === all.length - 1 ? after.from + minutesAWeek : after.from;
    return (all.length > 1 || each.to - each.from > minutesAWeek) && each.to > next;
  });
}

/** Free minutes of a day from `minute` on, at most `most`: where a new range fits; null for none. */
export function room(week: Week, day: number, minute: number, most: number): Range | null {
  const start = day * minutesADay + minute;
  const all = spans(week);
  const covering = all.some(
    ({ from, to }) =>
      (from <= start && start < to) || (from <= start + minutesAWeek && start + minutesAWeek < to),
  );
  if (covering) return null;
  const next = Math.min(...all.map(({ from }) => (from > start ? from : from + minutesAWeek)), start + most);
  const range = rangeOf(day, start, next);
  return isRange(range) ? range : null;
}

/** Minutes it is open in a week. */
export function openMinutes(week: Week): number {
  return spans(week).reduce((sum, { from, to }) => sum + to - from, 0);
}

/** Ranges as people type them: '9-12, 13:00 to 17:30', 'closed'. Null when they cannot be read, or overlap. */
export function readRanges(text: string): Range[] | null {
  const plain = text.trim().toLowerCase();
  if (plain === '' || plain === 'closed') return [];
  if (plain === 'all day' || plain === 'open') return [[0, minutesADay]];
  const ranges: Range[] = [];
  for (const part of plain.split(/[,;]|\band\b/)) {
    const [from, to, ...more] = part.split(/\s*(?:-|–|\bto\b)\s*/);
    if (from === undefined || to === undefined || more.length > 0) return null;
    const range = [minuteOf(from), minuteOf(to)] as const;
    if (range[0] === null || range[1] === null || !isRange(range as Range)) return null;
    ranges.push(range as Range);
  }
  return overlapping(ranges) === null ? ranges.sort((one, other) => one[0] - other[0]) : null;
}

/** '06:00 to 14:00, 15:00 to 18:00'; 'closed' for none. */
export function rangesText(ranges: readonly Range[]): string {
  if (ranges.length === 0) return 'closed';
  return ranges.map(([from, to]) => `${clockText(from)} to ${clockText(to)}`).join(', ');
}

import { clockText, isRange, overlapping } from '../hours/ranges.ts';
import { weekOverlaps } from '../hours/week.ts';
import type { Range } from '../hours/opening-hours.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  choice,
  date,
  flag,
  id,
  instant,
  list,
  name,
  nullable,
  object,
  type Part,
  ruled,
  text,
  whole,
} from './parts.ts';

const minutes = ruled(list(whole(0, 1_440), 2), (range) =>
  range.length === 2 && isRange(range as unknown as Range)
    ? null
    : 'A range has a start before 24:00 and another time as its end.',
) as unknown as Part<Range>;

const day = ruled(list(minutes, 12), (ranges) => {
  const found = overlapping(ranges);
  if (found === null) return null;
  const [one, other] = found.map(([from, to]) => `${clockText(from)} to ${clockText(to)}`);
  return `${one} and ${other} overlap. Make them one, or end the first earlier.`;
});

/** Longer than any list of holidays over some years. */
const mostDays = 1_000;

const specialDay = object({ date, name: text(80), holiday: flag, ranges: day });

const days = ruled(list(specialDay, mostDays), (all) => {
  const seen = new Set<string>();
  for (const each of all) {
    if (seen.has(each.date)) return `${each.date} is there twice. Keep one of them.`;
    seen.add(each.date);
  }
  return null;
});

const week = ruled(list(day, 7), (all) => {
  if (all.length !== 7) return 'A week has seven days, Monday first.';
  // What overlaps within a day is said there.
  const eachDayIsRight = all.every((ranges) => overlapping(ranges) === null);
  return eachDayIsRight && weekOverlaps(all)
    ? 'A range runs over midnight into one of the next day. End it earlier.'
    : null;
});

const storm = object({ since: instant, until: instant, by: nullable(text(80)) });

/** Named sets of opening hours: what people set, and how each stands now. */
export const openingHours = itemContract(
  {
    area: 'Opening hours',
    path: '/api/opening-hours',
    one: 'a set of opening hours',
    many: 'sets of opening hours',
  },
  { name, zone: text(60), weekly: week, days },
  {
    state: choice('open', 'closed', 'holiday', 'storm'),
    /** The unusual day that has a say today. */
    today: nullable(text(80)),
    nextChange: nullable(instant),
    nextDay: nullable(specialDay),
    storm: nullable(storm),
    /** Distances from UTC, from each instant on, in minutes. */
    clockChanges: list(list(instant, 2), 100),
    uses: whole(0, 1_000_000),
  },
);

export type OpeningHoursContract = typeof openingHours;
export type HoursDraft = DraftOf<OpeningHoursContract>;
export type HoursView = ViewOf<OpeningHoursContract>;

/** Closing sets in one press, until an instant: nobody comes in a storm. Null opens them again. */
export const stormCall = object({ ids: list(id, 1_000), until: nullable(instant) });

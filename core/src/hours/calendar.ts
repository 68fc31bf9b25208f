/** Unusual days as iCalendar (IETF RFC 5545): read from a file, and written for other programs. */
import ICAL from 'ical.js';
import { type Occurrence, occurrencesOf } from './calendar-events.ts';
import { describedZone } from './calendar-zone.ts';
import { dateOfDay, dayMs, dayOfDate } from './civil.ts';
import { minutesADay, type Range } from './opening-hours.ts';
import { tidied } from './ranges.ts';

/** A day that is not as its weekday; without ranges it is closed. Minutes of its local day, over midnight where they fall. */
export interface CalendarDay {
  date: string;
  name: string;
  holiday: boolean;
  ranges: Range[];
}

/** What a calendar says, and what of it cannot be taken, each in a sentence. */
export interface ReadCalendar {
  days: CalendarDay[];
  faults: string[];
}

/** Characters of a file that is read; events, and days taken from them. */
export const mostCalendarBytes = 2 * 1024 * 1024;
const mostEvents = 2_000;
const mostDays = 1_000;
/** Holidays are longer than a day, and shorter than this. */
const longestDays = 31;
/** What repeats is taken so far ahead. */
const yearsAhead = 3;

const minuteMs = 60_000;
const figure = (value: number) => value.toLocaleString('en');

/**
 * All-day events are days closed, others are hours open from then to then; what repeats is taken for the years ahead.
 *
 * @param zone of the hours, an IANA name
 * @param today local date YYYY-MM-DD: what is over is left out
 */
export function readCalendar(text: string, zone: string, today: string): ReadCalendar {
  if (text.length > mostCalendarBytes)
    return { days: [], faults: ['A calendar of at most 2 MB is read. Bring a part of it.'] };
  let events: ICAL.Component[];
  try {
    events = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent');
  } catch {
    return {
      days: [],
      faults: ['This is no calendar that can be read. Export it as iCalendar (.ics) and bring it again.'],
    };
  }
  const told: string[] = [];
  if (events.length === 0) told.push('There is no event in this calendar.');
  if (events.length > mostEvents)
    told.push(`Only the first ${figure(mostEvents)} of ${figure(events.length)} events are read.`);
  const from = dayOfDate(today) * dayMs;
  const until = dayOfDate(`${Number(today.slice(0, 4)) + yearsAhead}-01-01`) * dayMs;
  const { occurrences, faults } = occurrencesOf(events.slice(0, mostEvents), { zone, from, until });
  const days = new Map<string, CalendarDay>();
  const tooLong = new Set<string>();
  for (const each of occurrences) {
    const length = Math.ceil((each.to - Math.floor(each.from / dayMs) * dayMs) / dayMs);
    if (length > longestDays)
      tooLong.add(`“${each.name}” is ${length} days long, more than ${longestDays}. Add it by hand.`);
    else takeInto(days, each, today);
  }
  const sorted = [...days.values()].sort((one, other) => (one.date < other.date ? -1 : 1));
  if (sorted.length > mostDays)
    told.push(`Only the next ${figure(mostDays)} of ${figure(sorted.length)} days are taken.`);
  return { days: sorted.slice(0, mostDays), faults: [...told, ...faults, ...tooLong] };
}

/** What takes place on several days is on each of them; up to a day long it is one range, over midnight too. */
function takeInto(days: Map<string, CalendarDay>, { name, wholeDays, from, to }: Occurrence, today: string) {
  const first = Math.floor(from / dayMs);
  const begins = Math.round((from - first * dayMs) / minuteMs);
  const isOneRange = !wholeDays && to - from < dayMs;
  const last = isOneRange ? first : Math.ceil(to / dayMs) - 1;
  for (let day = first; day <= last; day++) {
    const date = dateOfDay(day);
    if (date < today) continue;
    const known = days.get(date);
    const start = day === first ? begins : 0;
    const end = Math.round((to - day * dayMs) / minuteMs);
    const ends = isOneRange && end > minutesADay ? end - minutesADay : Math.min(end, minutesADay);
    const ranges: Range[] = wholeDays ? [] : [[start, ends]];
    days.set(date, {
      date,
      name: known?.name ?? name,
      holiday: wholeDays,
      ranges: tidied([...(known?.ranges ?? []), ...ranges]),
    });
  }
}

/** How what was read goes into the days there are: those of the calendar win. */
export function merged(
  days: readonly CalendarDay[],
  read: readonly CalendarDay[],
): { days: CalendarDay[]; added: number; changed: number; same: number } {
  const all = new Map(days.map((day) => [day.date, day]));
  const counts = { added: 0, changed: 0, same: 0 };
  for (const day of read) {
    const before = all.get(day.date);
    if (before === undefined) counts.added++;
    else if (JSON.stringify(before.ranges) === JSON.stringify(day.ranges)) {
      counts.same++;
      continue;
    } else counts.changed++;
    all.set(day.date, day);
  }
  return { days: [...all.values()].sort((one, other) => (one.date < other.date ? -1 : 1)), ...counts };
}

/** Unusual days as a calendar: closed ones as whole days, others as events with times, and the zone they are in. */
export function writeCalendar(name: string, zone: string, days: readonly CalendarDay[]): string {
  const calendar = new ICAL.Component(['vcalendar', [], []]);
  calendar.updatePropertyWithValue('prodid', '-//Night Bell//Opening hours//EN');
  calendar.updatePropertyWithValue('version', '2.0');
  const timed = days.filter(({ ranges }) => ranges.length > 0).map(({ date }) => dayOfDate(date));
  if (timed.length > 0)
    calendar.addSubcomponent(
      describedZone(zone, (Math.min(...timed) - 1) * dayMs, (Math.max(...timed) + 2) * dayMs),
    );
  for (const day of days) {
    const spans: (Range | null)[] = day.ranges.length === 0 ? [null] : [...day.ranges];
    spans.forEach((range, index) => {
      const event = new ICAL.Component('vevent');
      event.updatePropertyWithValue('uid', `${day.date}-${index}-${encodeURIComponent(name)}@night-bell`);
      event.updatePropertyWithValue('dtstamp', ICAL.Time.fromDateTimeString(`${day.date}T00:00:00Z`));
      event.updatePropertyWithValue('summary', day.name === '' ? name : day.name);
      if (range === null) event.updatePropertyWithValue('dtstart', ICAL.Time.fromDateString(day.date));
      else {
        const isSameDay = range[1] > range[0] && range[1] < minutesADay;
        const ends = isSameDay ? day.date : dateOfDay(dayOfDate(day.date) + 1);
        event.updatePropertyWithValue('dtstart', timeOf(day.date, range[0])).setParameter('tzid', zone);
        event
          .updatePropertyWithValue('dtend', timeOf(ends, range[1] % minutesADay))
          .setParameter('tzid', zone);
      }
      calendar.addSubcomponent(event);
    });
  }
  return calendar.toString();
}

const two = (value: number) => String(value).padStart(2, '0');
const timeOf = (date: string, minute: number) =>
  ICAL.Time.fromDateTimeString(`${date}T${two(Math.floor(minute / 60))}:${two(minute % 60)}:00`);

/** Unusual days as iCalendar (RFC 5545): read from a file somebody brings, and written for other programs. */
import { isZone } from '@night-bell/core/hours/zone';
import { locale } from '../../kit/locale.ts';
import ICAL from 'ical.js';
import type { HoursDraft } from '@night-bell/core/contracts/opening-hours';
import { dateOfDay, dayOfDate } from '@night-bell/core/hours/civil';
import type { Range } from '@night-bell/core/hours/opening-hours';
import { tidied } from '@night-bell/core/hours/ranges';

type Day = HoursDraft['days'][number];

/** What a calendar says, and what of it cannot be taken, each in a sentence. */
export interface ReadCalendar {
  days: Day[];
  faults: string[];
}

export const mostCalendarBytes = 2 * 1024 * 1024;
/** Holidays are longer than a day, and shorter than this. */
const longestDays = 31;
/** A yearly event is taken this often. */
const yearsAhead = 3;
const mostEvents = 2_000;

/**
 * All-day events are days closed, yearly ones for the years ahead; an event with times is a day open from then to then,
 * on the clock of its own zone, which must be the set's or none.
 *
 * @param zone of the set
 * @param today local date: what is over is left out
 */
export function readCalendar(text: string, zone: string, today: string): ReadCalendar {
  const faults: string[] = [];
  const days = new Map<string, Day>();
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
  if (events.length === 0) faults.push('There is no event in this calendar.');
  if (events.length > mostEvents)
    faults.push(
      `Only the first ${mostEvents.toLocaleString(locale.value)} of ${events.length.toLocaleString(locale.value)} events are read.`,
    );
  for (const component of events.slice(0, mostEvents)) {
    const said = takeEvent(component, zone, today, days);
    if (said !== null) faults.push(said);
  }
  return { days: [...days.values()].sort((one, other) => (one.date < other.date ? -1 : 1)), faults };
}

/** What is wrong with an event; null when it was taken, or is over. */
function takeEvent(
  component: ICAL.Component,
  zone: string,
  today: string,
  days: Map<string, Day>,
): string | null {
  const event = new ICAL.Event(component);
  const start = event.startDate as ICAL.Time | null;
  const name = (event.summary as string | null)?.trim().slice(0, 80) || 'Unusual day';
  if (start === null) return `“${name}” has no day. It is left out.`;
  const rule = component.getFirstPropertyValue('rrule') as ICAL.Recur | null;
  const yearly =
    rule !== null && rule.freq === 'YEARLY' && rule.interval === 1 && Object.keys(rule.parts).length === 0;
  if (rule !== null && !yearly)
    return `“${name}” repeats in a way that is not read yet. Add its days by hand.`;
  const eventZone = component.getFirstProperty('dtstart')?.getParameter('tzid') ?? null;
  if (!start.isDate && typeof eventZone === 'string' && !isZone(eventZone))
    return `“${name}”: zone ${eventZone} is unknown. Choose one that is, and bring it again.`;
  if (!start.isDate && eventZone !== zone && (eventZone !== null || start.zone === ICAL.Timezone.utcTimezone))
    return `“${name}” has times in ${eventZone ?? 'UTC'}, and these hours are in ${zone}. Add it by hand.`;
  const first = dayOfDate(dateOf(start));
  const ranges = start.isDate ? [] : [rangeOf(start, event.endDate)];
  if (ranges.some((range) => range[0] === range[1])) return `“${name}” takes no time. It is left out.`;
  const length = start.isDate ? Math.max(1, dayOfDate(dateOf(event.endDate)) - first) : 1;
  if (length > longestDays)
    return `“${name}” is ${length} days long, more than ${longestDays}. Add it by hand.`;
  for (let year = 0; year < (yearly ? yearsAhead : 1); year++) {
    const begins = yearly ? inYear(dateOf(start), Number(today.slice(0, 4)) + year) : first;
    // The 29th of February is not there every year.
    if (Number.isNaN(begins)) continue;
    for (let day = begins; day < begins + length; day++) {
      const date = dateOfDay(day);
      if (date < today) continue;
      const known = days.get(date);
      days.set(date, {
        date,
        name: known?.name ?? name,
        holiday: start.isDate,
        ranges: tidied([...(known?.ranges ?? []), ...ranges]),
      });
    }
  }
  return null;
}

const two = (value: number) => String(value).padStart(2, '0');
const dateOf = ({ year, month, day }: ICAL.Time) => `${year}-${two(month)}-${two(day)}`;
const inYear = (date: string, year: number) => dayOfDate(`${year}${date.slice(4)}`);

function rangeOf(start: ICAL.Time, end: ICAL.Time): Range {
  const to = end.hour * 60 + end.minute;
  const from = start.hour * 60 + start.minute;
  return [from, to === 0 && dateOf(end) > dateOf(start) ? 1_440 : to];
}

/** How what was read goes into the days there are: those of the calendar win. */
export function merged(
  days: readonly Day[],
  read: readonly Day[],
): { days: Day[]; added: number; changed: number; same: number } {
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

/** The unusual days of a set as a calendar: closed ones as whole days, others as events with times. */
export function writeCalendar(name: string, zone: string, days: readonly Day[]): string {
  const calendar = new ICAL.Component(['vcalendar', [], []]);
  calendar.updatePropertyWithValue('prodid', '-//Night Bell//Opening hours//EN');
  calendar.updatePropertyWithValue('version', '2.0');
  for (const day of days) {
    const spans: (Range | null)[] = day.ranges.length === 0 ? [null] : [...day.ranges];
    spans.forEach((range, index) => {
      const event = new ICAL.Component('vevent');
      event.updatePropertyWithValue('uid', `${day.date}-${index}-${encodeURIComponent(name)}@night-bell`);
      event.updatePropertyWithValue('dtstamp', ICAL.Time.fromJSDate(new Date(`${day.date}T00:00:00Z`), true));
      event.updatePropertyWithValue('summary', day.name === '' ? name : day.name);
      if (range === null) event.updatePropertyWithValue('dtstart', ICAL.Time.fromDateString(day.date));
      else {
        const ends = range[1] > range[0] && range[1] < 1_440 ? day.date : dateOfDay(dayOfDate(day.date) + 1);
        event.updatePropertyWithValue('dtstart', timeOf(day.date, range[0])).setParameter('tzid', zone);
        event.updatePropertyWithValue('dtend', timeOf(ends, range[1] % 1_440)).setParameter('tzid', zone);
      }
      calendar.addSubcomponent(event);
    });
  }
  return calendar.toString();
}

const timeOf = (date: string, minute: number) =>
  ICAL.Time.fromDateTimeString(`${date}T${two(Math.floor(minute / 60))}:${two(minute % 60)}:00`);

import { dateOfDay, dayOfDate, weekdayOf } from '@night-bell/core/hours/civil';
import { clockText, minuteOf } from '@night-bell/core/hours/ranges';

/** Days, stretches of days and moments as people write them. Dates are YYYY-MM-DD. */
export type Toward = 'coming' | 'past';
export interface Stretch {
  from: string;
  to: string;
}

const format = new Intl.DateTimeFormat('en-GB', {
  ...{ weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' },
});
const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];

/** 'Thu 24 Dec 2026': day before month, and the month in letters, so that nobody anywhere takes one for the other. */
/** '24 Dec', where the year is plain. */
export const dayWords = (date: string): string => {
  const name = months[Number(date.slice(5, 7)) - 1]!;
  return `${Number(date.slice(8))} ${name.charAt(0).toUpperCase()}${name.slice(1)}`;
};

export const dayInWords = (date: string): string =>
  date === '' ? '' : format.format(Date.parse(`${date}T12:00:00Z`)).replace(',', '');

const later = (date: string, days: number) => dateOfDay(dayOfDate(date) + days);

function dateOf(year: number, month: number, day: number): string | null {
  const date = `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  return Number.isNaN(dayOfDate(date)) ? null : date;
}

/**
 * The date somebody means: '24 Dec', '24.12.2026', '2026-12-24', 'tomorrow', 'Fri'. Without a year, the next time it comes
 * or the last time it was. Null for what is none.
 */
export function readDay(typed: string, today: string, toward: Toward = 'coming'): string | null {
  const plain = typed.trim().toLowerCase();
  const near = { today: 0, tomorrow: 1, yesterday: -1 }[plain];
  if (near !== undefined) return later(today, near);
  const weekday = weekdays.indexOf(plain.slice(0, 3));
  if (weekday >= 0 && /^[a-z]+$/.test(plain)) {
    const ahead = (weekday - weekdayOf(dayOfDate(today)) + 7) % 7;
    return later(today, toward === 'coming' || ahead === 0 ? ahead : ahead - 7);
  }
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(plain);
  if (iso !== null) return dateOf(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const worded = /^(?:[a-z]{3,9}\.?,? )?(\d{1,2})(?:\. ?|[ /])(\d{1,2}|[a-z]{3,9})\.?(?:[ /]?(\d{4}))?$/.exec(
    plain,
  );
  if (worded === null) return null;
  const named = months.indexOf(worded[2]!.slice(0, 3));
  const month = named >= 0 ? named + 1 : Number(worded[2]);
  const year = Number(worded[3] ?? today.slice(0, 4));
  const date = dateOf(year, month, Number(worded[1]));
  if (date === null || worded[3] !== undefined) return date;
  if (toward === 'coming') return date >= today ? date : dateOf(year + 1, month, Number(worded[1]));
  return date <= today ? date : dateOf(year - 1, month, Number(worded[1]));
}

/** Stretches that are asked for again and again. */
export function nearStretches(today: string, toward: Toward): { title: string; stretch: Stretch }[] {
  const weekday = weekdayOf(dayOfDate(today));
  const monday = later(today, -weekday);
  const first = `${today.slice(0, 8)}01`;
  const lastMonth = `${later(first, -1).slice(0, 8)}01`;
  const past = [
    { title: 'Today', stretch: { from: today, to: today } },
    { title: 'Yesterday', stretch: { from: later(today, -1), to: later(today, -1) } },
    { title: 'This week', stretch: { from: monday, to: today } },
    { title: 'Last 7 days', stretch: { from: later(today, -6), to: today } },
    { title: 'Last 30 days', stretch: { from: later(today, -29), to: today } },
    { title: 'This month', stretch: { from: first, to: today } },
    { title: 'Last month', stretch: { from: lastMonth, to: later(first, -1) } },
  ];
  const coming = [
    { title: 'Tomorrow', stretch: { from: later(today, 1), to: later(today, 1) } },
    { title: 'Next 7 days', stretch: { from: today, to: later(today, 6) } },
    { title: 'Next week', stretch: { from: later(monday, 7), to: later(monday, 13) } },
  ];
  return toward === 'past' ? past : coming;
}

/**
 * '24 Dec to 2 Jan', '1 - 5 March', 'last 7 days', or one day alone. The end follows the beginning: of 24 Dec to 2 Jan it
 * is next year's. Null for what is none.
 */
export function readStretch(typed: string, today: string, toward: Toward): Stretch | null {
  const plain = typed.trim().toLowerCase();
  const near = [...nearStretches(today, 'past'), ...nearStretches(today, 'coming')].find(
    ({ title }) => title.toLowerCase() === plain,
  );
  if (near !== undefined) return near.stretch;
  const parts = plain.split(/\s*(?:–|—|\bto\b|\buntil\b|\s-\s)\s*/);
  if (parts.length === 1) {
    const day = readDay(plain, today, toward);
    return day === null ? null : { from: day, to: day };
  }
  if (parts.length !== 2) return null;
  // '1 to 5 March': the first day is in the month of the second.
  const month = /^\d{1,2}$/.test(parts[0]!) ? parts[1]!.replace(/^\d{1,2}/, '') : '';
  const from = readDay(parts[0]! + month, today, toward);
  const to = from === null ? null : readDay(parts[1]!, from, 'coming');
  return from === null || to === null || to < from ? null : { from, to };
}

/** 'Thu 24 Dec 2026', or 'Thu 24 Dec 2026 to Sat 2 Jan 2027'. */
export function stretchInWords({ from, to }: Stretch): string {
  if (from === '' && to === '') return '';
  if (from === to) return dayInWords(from);
  if (to === '') return `since ${dayInWords(from)}`;
  return from === '' ? `until ${dayInWords(to)}` : `${dayInWords(from)} to ${dayInWords(to)}`;
}

/** A day and a time of it, 'YYYY-MM-DDTHH:mm': from '24 Dec 14:30', '14:30', 'tomorrow 9:00'. Null for what is none. */
export function readMoment(typed: string, today: string): string | null {
  const found = /^(.*?)[ ,]*(\d{1,2}:\d{2})$/.exec(typed.trim());
  if (found === null) return null;
  const day = found[1]!.trim() === '' ? today : readDay(found[1]!, today);
  const minute = minuteOf(found[2]!);
  return day === null || minute === null || minute >= 1_440 ? null : `${day}T${clockText(minute)}`;
}

/** 'Thu 24 Dec 2026 14:30'. */
export const momentInWords = (moment: string): string =>
  moment === '' ? '' : `${dayInWords(moment.slice(0, 10))} ${moment.slice(11, 16)}`;

/** For a calendar of the browser, which thinks in its own clock. */
export const asDate = (date: string): Date | null => (date === '' ? null : new Date(`${date}T12:00:00`));
export const ofDate = (date: Date): string =>
  dateOf(date.getFullYear(), date.getMonth() + 1, date.getDate()) ?? '';

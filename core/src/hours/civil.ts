/**
 * Dates of the Gregorian calendar and the number of a day since 1 January 1970, by integers alone.
 * Source: H. Hinnant, "chrono-compatible low-level date algorithms" (days_from_civil, civil_from_days).
 */

const daysIn400Years = 146_097;
/** From 1 March of the year 0 to 1 January 1970: years begin in March there, so that a leap day comes last. */
const epochShift = 719_468;

/** The date of a day counted from 1970: YYYY-MM-DD. */
export function dateOfDay(day: number): string {
  const shifted = day + epochShift;
  const era = Math.floor(shifted / daysIn400Years);
  const ofEra = shifted - era * daysIn400Years;
  const year = Math.floor(
    (ofEra - Math.floor(ofEra / 1_460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365,
  );
  const ofYear = ofEra - (365 * year + Math.floor(year / 4) - Math.floor(year / 100));
  const month = Math.floor((5 * ofYear + 2) / 153);
  const dayOfMonth = ofYear - Math.floor((153 * month + 2) / 5) + 1;
  const calendarMonth = month < 10 ? month + 3 : month - 9;
  const calendarYear = year + era * 400 + (calendarMonth <= 2 ? 1 : 0);
  const digits = (value: number, length: number) => String(value).padStart(length, '0');
  return `${digits(calendarYear, 4)}-${digits(calendarMonth, 2)}-${digits(dayOfMonth, 2)}`;
}

/** The day of a date YYYY-MM-DD, counted from 1970; NaN for what is no date. */
export function dayOfDate(date: string): number {
  const found = /^(\d{4})-(\d{2})-(\d{2})$/.exec(date);
  if (found === null) return Number.NaN;
  const month = Number(found[2]);
  const dayOfMonth = Number(found[3]);
  const year = Number(found[1]) - (month <= 2 ? 1 : 0);
  const era = Math.floor(year / 400);
  const ofEra = year - era * 400;
  const ofYear = Math.floor((153 * (month > 2 ? month - 3 : month + 9) + 2) / 5) + dayOfMonth - 1;
  const day =
    era * daysIn400Years +
    (ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear) -
    epochShift;
  // A thirty-first of February is another day's date.
  return dateOfDay(day) === date ? day : Number.NaN;
}

/** 0 for Monday. Day 0, 1 January 1970, was a Thursday. */
export function weekdayOf(day: number): number {
  return (((day + 3) % 7) + 7) % 7;
}

export const dayMs = 86_400_000;
const two = (value: number) => String(value).padStart(2, '0');

/** Milliseconds since 1970 of a reading of the clock as if it were UTC; months from 1. */
export function readingOf(parts: {
  year: number;
  month: number;
  day: number;
  hour: number;
  minute: number;
  second: number;
}): number {
  const date = `${String(parts.year).padStart(4, '0')}-${two(parts.month)}-${two(parts.day)}`;
  return dayOfDate(date) * dayMs + ((parts.hour * 60 + parts.minute) * 60 + parts.second) * 1_000;
}

/** A reading as text: `2026-11-24T14:20:00`. */
export function readingText(reading: number): string {
  const day = Math.floor(reading / dayMs);
  const seconds = Math.floor((reading - day * dayMs) / 1_000);
  const clock = [Math.floor(seconds / 3_600), Math.floor(seconds / 60) % 60, seconds % 60];
  return `${dateOfDay(day)}T${clock.map(two).join(':')}`;
}

/** What a call source costs. Amounts are whole cents, so that nothing is lost to binary fractions. */
export interface SourceCost {
  cents: number;
  per: 'month' | 'once';
  /** First day it cost something, as the number of days since 1970. */
  fromDay: number;
}

/** Days of the month that holds a day, and the day on which the month begins, by the civil calendar. */
function monthOf(day: number): { begins: number; days: number } {
  const { year, month } = civil(day);
  const begins = daysFromCivil(year, month, 1);
  const next = month === 12 ? daysFromCivil(year + 1, 1, 1) : daysFromCivil(year, month + 1, 1);
  return { begins, days: next - begins };
}

/**
 * Cents that fall on the days [from, to). What is paid once counts whole on its first day; what is paid by the month
 * is spread over that month's days, and rounded once, at the end.
 */
export function costBetween(cost: SourceCost, from: number, to: number): number {
  if (cost.per === 'once') return cost.fromDay >= from && cost.fromDay < to ? cost.cents : 0;
  let cents = 0;
  for (let day = Math.max(from, cost.fromDay); day < to;) {
    const { begins, days } = monthOf(day);
    const end = Math.min(to, begins + days);
    cents += (cost.cents * (end - day)) / days;
    day = end;
  }
  return Math.round(cents);
}

/** Year, month and day of a day number (Hinnant, "chrono-compatible low-level date algorithms", civil_from_days). */
export function civil(day: number): { year: number; month: number; day: number } {
  const z = day + 719_468;
  const era = Math.floor(z / 146_097);
  const dayOfEra = z - era * 146_097;
  const yearOfEra = Math.floor(
    (dayOfEra -
      Math.floor(dayOfEra / 1_460) +
      Math.floor(dayOfEra / 36_524) -
      Math.floor(dayOfEra / 146_096)) /
      365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shifted = Math.floor((5 * dayOfYear + 2) / 153);
  const month = shifted < 10 ? shifted + 3 : shifted - 9;
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * shifted + 2) / 5) + 1,
  };
}

/** The day number of a date (the same source, days_from_civil). */
export function daysFromCivil(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146_097 + dayOfEra - 719_468;
}

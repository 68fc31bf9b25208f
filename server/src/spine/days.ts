import { DateTime } from 'luxon';

/** From the midnight before the first day to that after the last (YYYY-MM-DD), by the clock of `zone`. */
export function daysOf(from: string, to: string, zone: string): { from: Date; to: Date } {
  const midnight = (text: string) => DateTime.fromISO(text, { zone }).startOf('day');
  return { from: midnight(from).toJSDate(), to: midnight(to).plus({ days: 1 }).toJSDate() };
}

/** From the last midnight to the next, by the clock of `zone`. */
export function today(zone: string): { from: Date; to: Date } {
  const midnight = DateTime.now().setZone(zone).startOf('day');
  return { from: midnight.toJSDate(), to: midnight.plus({ days: 1 }).toJSDate() };
}

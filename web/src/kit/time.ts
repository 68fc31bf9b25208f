import { instantInZone, zoneAhead } from '@night-bell/core/hours/zone';
import type { Stretch } from './days.ts';
import { hasTwelveHours, houseLocale, locale } from './locale.ts';
import { useSession } from '../shell/session.ts';

const formats = new Map<string, Intl.DateTimeFormat>();

/** A format of a zone, made once; in the house's own forms unless another way of writing is named. */
export function format(
  timeZone: string,
  options: Intl.DateTimeFormatOptions,
  writing: string = houseLocale,
): Intl.DateTimeFormat {
  const key = writing + timeZone + JSON.stringify(options);
  let found = formats.get(key);
  if (found === undefined) {
    found = new Intl.DateTimeFormat(writing, { timeZone, ...options });
    formats.set(key, found);
  }
  return found;
}

/** The local day of an instant, `2026-11-24`. */
export function dayOf(instant: number, timeZone: string): string {
  return new Date(instant + zoneAhead(instant, timeZone)).toISOString().slice(0, 10);
}

/** The instant of a local reading like `2026-11-24T14:20` in a zone; a reading that spring skips counts as the next. */
export function instantOf(reading: string, timeZone: string): number {
  return instantInZone(Date.parse(`${reading}Z`), timeZone);
}

/** Clock and date as whoever looks reads them, by the clock of their zone. */
export function useClock() {
  const session = useSession();
  const at = (instant: number | string | Date) => new Date(instant);
  const written = (options: Intl.DateTimeFormatOptions) => (instant: number | string) =>
    format(session.readerZone, options, locale.value).format(at(instant));
  // Two digits in columns of 24 hours; where there are twelve, as it is said.
  const hour = () => ({
    hour: hasTwelveHours() ? ('numeric' as const) : ('2-digit' as const),
    minute: '2-digit' as const,
  });
  const clock = (instant: number | string) => written(hour())(instant);
  const clockSeconds = (instant: number | string) => written({ ...hour(), second: '2-digit' })(instant);
  const date = (instant: number | string) => {
    const day = written({ weekday: 'short', day: 'numeric', month: 'short' })(instant);
    return locale.value === houseLocale ? day.replace(',', '') : day;
  };
  const today = (instant: number | string) => date(instant) === date(Date.now());
  const moment = (instant: number | string) =>
    today(instant) ? clock(instant) : `${date(instant)} ${clock(instant)}`;
  return { clock, clockSeconds, date, moment };
}

/** Days of a zone as the instants they begin and end at, the last one whole; null where a side is open. */
export function instantsOf({ from, to }: Stretch, zone: string): { from: string | null; to: string | null } {
  const midnight = (day: string) => new Date(instantOf(`${day}T00:00`, zone)).toISOString();
  const after = (day: string) => new Date(Date.parse(day) + 86_400_000).toISOString().slice(0, 10);
  return { from: from === '' ? null : midnight(from), to: to === '' ? null : midnight(after(to)) };
}

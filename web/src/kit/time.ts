import type { Stretch } from './days.ts';
import { useSession } from '../shell/session.ts';

const formats = new Map<string, Intl.DateTimeFormat>();

/** A format of a zone, made once. */
export function format(timeZone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = timeZone + JSON.stringify(options);
  let found = formats.get(key);
  if (found === undefined) {
    found = new Intl.DateTimeFormat('en-GB', { timeZone, ...options });
    formats.set(key, found);
  }
  return found;
}

/** How far a zone is ahead of UTC at an instant, in milliseconds. */
function aheadOfUtc(instant: number, timeZone: string): number {
  const parts = format(timeZone, {
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  }).formatToParts(instant);
  const part = (type: string) => Number(parts.find((each) => each.type === type)?.value);
  return (
    Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'), part('second')) -
    instant
  );
}

/** The local day of an instant, `2026-11-24`. */
export function dayOf(instant: number, timeZone: string): string {
  return new Date(instant + aheadOfUtc(instant, timeZone)).toISOString().slice(0, 10);
}

/** The instant of a local reading like `2026-11-24T14:20` in a zone; a reading that spring skips counts as the next. */
export function instantOf(reading: string, timeZone: string): number {
  const asUtc = Date.parse(`${reading}Z`);
  const guess = asUtc - aheadOfUtc(asUtc, timeZone);
  return asUtc - aheadOfUtc(guess, timeZone);
}

/** Clock and date in the company's time zone. */
export function useClock() {
  const session = useSession();
  const at = (instant: number | string | Date) => new Date(instant);
  const clock = (instant: number | string) =>
    format(session.timeZone, { hour: '2-digit', minute: '2-digit' }).format(at(instant));
  const clockSeconds = (instant: number | string) =>
    format(session.timeZone, { hour: '2-digit', minute: '2-digit', second: '2-digit' }).format(at(instant));
  const date = (instant: number | string) =>
    format(session.timeZone, { weekday: 'short', day: 'numeric', month: 'short' })
      .format(at(instant))
      .replace(',', '');
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

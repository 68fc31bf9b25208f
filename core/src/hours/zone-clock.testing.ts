import type { ZoneClock } from './zone-clock.ts';

const formats = new Map<string, Intl.DateTimeFormat>();

/** What the platform's own zone data say the wall clock shows, as milliseconds since 1970. */
export function platformReading(zone: string, at: number): number {
  const format =
    formats.get(zone) ??
    new Intl.DateTimeFormat('en-US', {
      timeZone: zone,
      hourCycle: 'h23',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
      second: 'numeric',
    });
  formats.set(zone, format);
  const parts = Object.fromEntries(format.formatToParts(at).map((part) => [part.type, Number(part.value)]));
  return (
    Date.UTC(parts.year!, parts.month! - 1, parts.day, parts.hour, parts.minute, parts.second) + (at % 1000)
  );
}

/** A clock over the years 2026 and 2027, found by asking the platform hour by hour. */
export function clockOf(zone: string): ZoneClock {
  const changes: [number, number][] = [];
  const ahead = (at: number) => (platformReading(zone, at) - at) / 60_000;
  for (let at = Date.UTC(2026, 0, 1); at < Date.UTC(2028, 0, 1); at += 3_600_000) {
    if (changes.at(-1)?.[1] !== ahead(at)) changes.push([at, ahead(at)]);
  }
  return { zone, changes };
}

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

/** A clock over the years given, 2026 and 2027 unless said; found by asking the platform hour by hour, then minute by minute. */
export function clockOf(zone: string, first = 2026, last = 2027): ZoneClock {
  const key = `${zone} ${first} ${last}`;
  const found = clocks.get(key) ?? findClock(zone, first, last);
  clocks.set(key, found);
  return found;
}

const clocks = new Map<string, ZoneClock>();

function findClock(zone: string, first: number, last: number): ZoneClock {
  const ahead = (at: number) => (platformReading(zone, at) - at) / 60_000;
  const changes: [number, number][] = [];
  for (let at = Date.UTC(first, 0, 1); at < Date.UTC(last + 1, 0, 1); at += 3_600_000) {
    if (changes.at(-1)?.[1] === ahead(at)) continue;
    let instant = at;
    while (changes.length > 0 && ahead(instant - 60_000) === ahead(at)) instant -= 60_000;
    changes.push([instant, ahead(at)]);
  }
  return { zone, changes };
}

import { dayMs, readingOf } from './civil.ts';

const formats = new Map<string, Intl.DateTimeFormat>();

function formatOf(zone: string): Intl.DateTimeFormat {
  let found = formats.get(zone);
  if (found === undefined) {
    found = new Intl.DateTimeFormat('en-GB', {
      timeZone: zone,
      hourCycle: 'h23',
      ...{ year: 'numeric', month: '2-digit', day: '2-digit' },
      ...{ hour: '2-digit', minute: '2-digit', second: '2-digit' },
    });
    formats.set(zone, found);
  }
  return found;
}

/** Whether this is a time zone of the IANA database that this machine knows, by the name it goes by there. */
export function isZone(zone: string): boolean {
  try {
    formatOf(zone);
    return true;
  } catch {
    return false;
  }
}

/** How far a zone is ahead of UTC at an instant (UTC milliseconds), in milliseconds. Throws RangeError for no zone. */
export function zoneAhead(instant: number, zone: string): number {
  const parts = formatOf(zone).formatToParts(instant);
  const part = (type: string) => Number(parts.find((each) => each.type === type)?.value);
  const reading = readingOf({
    ...{ year: part('year'), month: part('month'), day: part('day') },
    ...{ hour: part('hour'), minute: part('minute'), second: part('second') },
  });
  return reading - Math.floor(instant / 1_000) * 1_000;
}

/**
 * The instant of a local reading in a zone. Both are milliseconds: of UTC, and of the reading as if it were UTC. A reading
 * that spring skips counts as the next; of one that comes twice in autumn, the earlier is meant (RFC 5545, 3.3.5).
 */
export function instantInZone(reading: number, zone: string): number {
  const earlier = reading - zoneAhead(reading - dayMs, zone);
  if (earlier + zoneAhead(earlier, zone) === reading) return earlier;
  return reading - zoneAhead(reading - zoneAhead(reading, zone), zone);
}

const minuteMs = 60_000;

/** When a zone's distance from UTC (milliseconds ahead) changes between two instants, to the minute; by instant. */
export function zoneChanges(
  zone: string,
  from: number,
  until: number,
): { at: number; before: number; after: number }[] {
  const changes = [];
  // Zones change a few times a year: a week's step finds each change, halving finds its instant.
  for (let at = from; at < until;) {
    const next = Math.min(at + 7 * dayMs, until);
    const before = zoneAhead(at, zone);
    if (zoneAhead(next, zone) === before) {
      at = next;
      continue;
    }
    let [low, high] = [at, next];
    while (high - low > minuteMs) {
      const middle = Math.floor((low + high) / 2 / minuteMs) * minuteMs;
      if (zoneAhead(middle, zone) === before) low = middle;
      else high = middle;
    }
    changes.push({ at: high, before, after: zoneAhead(high, zone) });
    at = high;
  }
  return changes;
}

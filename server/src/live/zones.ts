import { DateTime, IANAZone } from 'luxon';
import type { ZoneClock } from '@night-bell/core/hours/zone-clock';

const known = new Map<string, ZoneClock>();
const hourMs = 3_600_000;

/**
 * When a zone's distance from UTC changes, from the year before this one to the end of the next: what core needs to
 * tell local time. The same all year long, so that a compiled set-up does not change by itself.
 */
export function zoneClock(zone: string): ZoneClock {
  const year = DateTime.utc().year;
  const key = `${zone} ${year}`;
  const found = known.get(key);
  if (found !== undefined) return found;
  const rules = IANAZone.create(zone);
  const begin = Date.UTC(year - 1, 0, 1);
  const end = Date.UTC(year + 2, 0, 1);
  const changes: [number, number][] = [[begin, rules.offset(begin)]];
  // Zones change a few times a year: a week's step finds each change, halving finds its instant.
  for (let at = begin; at < end;) {
    const next = Math.min(at + 7 * 24 * hourMs, end);
    if (rules.offset(next) === rules.offset(at)) {
      at = next;
      continue;
    }
    let low = at;
    let high = next;
    while (high - low > 60_000) {
      const middle = Math.floor((low + high) / 120_000) * 60_000;
      if (rules.offset(middle) === rules.offset(low)) low = middle;
      else high = middle;
    }
    changes.push([high, rules.offset(high)]);
    at = high;
  }
  const clock = { zone, changes };
  known.set(key, clock);
  return clock;
}

export function zoneClocks(zones: readonly string[]): ZoneClock[] {
  return zones.map(zoneClock);
}

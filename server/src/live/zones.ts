import { DateTime } from 'luxon';
import { zoneAhead, zoneChanges } from '@night-bell/core/hours/zone';
import { minuteMs, type ZoneClock } from '@night-bell/core/hours/zone-clock';

const known = new Map<string, ZoneClock>();

/**
 * When a zone's distance from UTC changes, from the year before this one to the end of the next: what core needs to
 * tell local time. The same all year long, so that a compiled set-up does not change by itself.
 */
export function zoneClock(zone: string): ZoneClock {
  const year = DateTime.utc().year;
  const key = `${zone} ${year}`;
  const found = known.get(key);
  if (found !== undefined) return found;
  const begin = Date.UTC(year - 1, 0, 1);
  const end = Date.UTC(year + 2, 0, 1);
  const minutes = (ahead: number) => Math.round(ahead / minuteMs);
  const changes: [number, number][] = [
    [begin, minutes(zoneAhead(begin, zone))],
    ...zoneChanges(zone, begin, end).map(({ at, after }): [number, number] => [at, minutes(after)]),
  ];
  const clock = { zone, changes };
  known.set(key, clock);
  return clock;
}

export function zoneClocks(zones: readonly string[]): ZoneClock[] {
  return zones.map(zoneClock);
}

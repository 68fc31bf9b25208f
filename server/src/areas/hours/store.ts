import type { Knex } from 'knex';
import { isZone } from '@night-bell/core/hours/zone';
import { type HoursDraft, type HoursView, openingHours } from '@night-bell/core/contracts/opening-hours';
import {
  nextChange,
  nextSpecialDay,
  type OpeningHours,
  standingAt,
} from '@night-bell/core/hours/opening-hours';
import { Problem } from '../../http/problems.ts';
import { zoneClock } from '../../live/zones.ts';
import { announceChange, authorOf, recordChange, tellPages } from '../../spine/items.ts';
import { defineItem, usesOf } from '../../spine/define-item.ts';

interface Row extends HoursDraft {
  id: string;
  version: number;
  retired: boolean;
  stormSince: Date | null;
  stormUntil: Date | null;
  stormBy: string | null;
  uses: number;
}

/** A set as core evaluates it. */
export function compiledHours(
  set: HoursDraft & { id: string; storm: { since: number; until: number } | null },
): OpeningHours {
  return {
    id: set.id,
    name: set.name,
    clock: zoneClock(set.zone),
    weekly: set.weekly,
    days: Object.fromEntries(set.days.map((day) => [day.date, day])),
    storm: set.storm === null ? null : { since: set.storm.since, until: set.storm.until },
  };
}

function viewOf({ stormSince, stormUntil, stormBy, uses, ...set }: Row): HoursView {
  const now = Date.now();
  // One that is over is as good as none.
  const isOn = stormSince !== null && stormUntil !== null && stormUntil.getTime() > now;
  const storm = isOn ? { since: stormSince.getTime(), until: stormUntil.getTime(), by: stormBy } : null;
  const hours = compiledHours({ ...set, storm });
  const standing = standingAt(hours, now);
  const next = nextSpecialDay(hours, now);
  return {
    ...set,
    state: standing.state,
    today: standing.day?.name ?? null,
    nextChange: nextChange(hours, now),
    nextDay: next === null ? null : { ...next, ranges: [...next.ranges] },
    storm,
    clockChanges: hours.clock.changes.map((change) => [...change]),
    uses,
  };
}

export const hoursItem = defineItem<typeof openingHours.path, HoursDraft, HoursView, Row>({
  kind: 'hours',
  contract: openingHours,
  word: 'set of opening hours',
  table: 'opening_hours',
  columns: {
    zone: { column: 'zone' },
    weekly: { column: 'weekly', json: true },
    days: { column: 'days', json: true },
  },
  more: {
    stormSince: 't.storm_since',
    stormUntil: 't.storm_until',
    stormBy: '(select name from item where id = t.storm_by)',
    uses: usesOf,
  },
  view: viewOf,
  references: () => [],
  check: (_trx, { zone }) =>
    isZone(zone)
      ? Promise.resolve()
      : Promise.reject(
          Problem.field('/zone', `${zone} is no time zone that is known here. Choose one from the list.`),
        ),
});

/** Lays a storm over sets until an instant (UTC milliseconds), or takes it away; in their histories, told to everybody. */
export async function callStorm(
  trx: Knex,
  ids: readonly string[],
  until: number | null,
  byPerson: string,
): Promise<void> {
  await trx('opening_hours')
    .whereIn('id', ids)
    .update(
      until === null
        ? { storm_since: null, storm_until: null, storm_by: null }
        : { storm_since: trx.fn.now(), storm_until: new Date(until), storm_by: byPerson },
    );
  const author = authorOf(byPerson);
  const what = until === null ? 'stormOver' : 'storm';
  for (const id of ids) {
    await recordChange(trx, { item_id: id, what, before: null, after: null }, author);
    await tellPages(trx, 'hours', id);
  }
  await announceChange(trx);
}

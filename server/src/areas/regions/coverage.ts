import { setImmediate } from 'node:timers/promises';
import type { Knex } from 'knex';
import type { RegionCoverage } from '@night-bell/core/contracts/regions';
import { areaCode, placeOf } from '@night-bell/core/numbers/facts';
import { regionOf } from '@night-bell/core/plan/regions';
import type { RegionTable } from '@night-bell/core/model/configuration';
import { destinationFrom } from '../../spine/destinations.ts';
import { allRows, callersOf } from './rows.queries.ts';

export const days = 30;
const mostRows = 1_000;
const mostMissing = 50;
const mostOverlaps = 100;
/** Callers looked at between what is live. */
const batch = 2_000;

/** How many of the last month's callers each row would have caught, whom none would, and which rows lie within others. */
export async function coverageOf(database: Knex, tableId: string): Promise<RegionCoverage> {
  const [rows, callers] = await Promise.all([allRows(database, tableId), callersOf(database, days)]);
  const nameOf = new Map(rows.map(({ prefix, name }) => [prefix, name]));
  const table: RegionTable = {
    ...{ id: tableId, name: '' },
    ways: rows.map(({ prefix, kind, item }) => ({
      destination: destinationFrom(kind, item)!,
      prefixes: prefix,
    })),
  };
  const caught = new Map<string, number>();
  const missing = new Map<string, { place: string | null; calls: number }>();
  const counts = { calls: 0, withheld: 0, covered: 0 };
  for (const [index, { caller, calls }] of callers.entries()) {
    if (index % batch === batch - 1) await setImmediate();
    counts.calls += calls;
    if (!caller.startsWith('+')) {
      counts.withheld += calls;
      continue;
    }
    const found = regionOf(table, caller);
    if (found !== null) {
      counts.covered += calls;
      caught.set(found.prefix, (caught.get(found.prefix) ?? 0) + calls);
      continue;
    }
    const code = areaCode(caller);
    const prefix = code === null ? caller.slice(1, 4) : `1${code}`;
    const known = missing.get(prefix);
    missing.set(prefix, {
      place: known?.place ?? placeOf(caller),
      calls: (known?.calls ?? 0) + calls,
    });
  }
  const overlaps = overlapping(nameOf);
  return {
    ...{ days, ...counts },
    rows: [...caught]
      .map(([prefix, calls]) => ({ prefix, calls }))
      .sort((one, other) => other.calls - one.calls || (one.prefix < other.prefix ? -1 : 1))
      .slice(0, mostRows),
    missing: [...missing]
      .map(([prefix, rest]) => ({ prefix, ...rest }))
      .sort((one, other) => other.calls - one.calls || (one.prefix < other.prefix ? -1 : 1))
      .slice(0, mostMissing),
    overlaps: overlaps.slice(0, mostOverlaps),
    overlapping: overlaps.length,
  };
}

/** Rows that begin like a shorter one and lead elsewhere. */
function overlapping(nameOf: ReadonlyMap<string, string>): RegionCoverage['overlaps'] {
  return [...nameOf].flatMap(([prefix, toName]) => {
    for (let length = prefix.length - 1; length > 0; length--) {
      const within = prefix.slice(0, length);
      const withinName = nameOf.get(within);
      if (withinName === undefined) continue;
      return withinName === toName ? [] : [{ prefix, within, toName, withinName }];
    }
    return [];
  });
}

/** How many of the last month's callers these prefixes alone would catch. */
export async function caughtBy(
  database: Knex,
  prefixes: readonly string[],
): Promise<{ calls: number; caught: number }> {
  const table: RegionTable = {
    ...{ id: '', name: '' },
    ways: [{ destination: { kind: 'end' }, prefixes: prefixes.join(' ') }],
  };
  let [calls, caught] = [0, 0];
  for (const [index, each] of (await callersOf(database, days)).entries()) {
    if (index % batch === batch - 1) await setImmediate();
    calls += each.calls;
    if (regionOf(table, each.caller) !== null) caught += each.calls;
  }
  return { calls, caught };
}

import { setImmediate } from 'node:timers/promises';
import type { Knex } from 'knex';
import type { RegionCoverage } from '@night-bell/core/contracts/regions';
import { areaCode, placeOf } from '@night-bell/core/numbers/facts';
import { longestPrefix } from '@night-bell/core/plan/regions';
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
  const nameOf = new Map<string, string>();
  let longest = 0;
  for (const [index, { prefix, name }] of rows.entries()) {
    nameOf.set(prefix, name);
    longest = Math.max(longest, prefix.length);
    await betweenCalls(index);
  }
  const caught = new Map<string, number>();
  const missing = new Map<string, { place: string | null; calls: number }>();
  const counts = { calls: 0, withheld: 0, covered: 0 };
  for (const [index, { caller, calls }] of callers.entries()) {
    await betweenCalls(index);
    counts.calls += calls;
    if (!caller.startsWith('+')) {
      counts.withheld += calls;
      continue;
    }
    const found = longestPrefix(nameOf, longest, caller);
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
  const overlaps = await overlapping(nameOf);
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

/** Lets calls be served, now and then. */
async function betweenCalls(index: number): Promise<void> {
  if (index % batch === batch - 1) await setImmediate();
}

/** Rows that begin like a shorter one and lead elsewhere. */
async function overlapping(nameOf: ReadonlyMap<string, string>): Promise<RegionCoverage['overlaps']> {
  const found: RegionCoverage['overlaps'] = [];
  let index = 0;
  for (const [prefix, toName] of nameOf) {
    await betweenCalls(index++);
    const within = longestPrefix(nameOf, prefix.length - 1, `+${prefix}`);
    if (within !== null && within.value !== toName)
      found.push({ prefix, within: within.prefix, toName, withinName: within.value });
  }
  return found;
}

/** How many of the last month's callers these prefixes alone would catch. */
export async function caughtBy(
  database: Knex,
  prefixes: readonly string[],
): Promise<{ calls: number; caught: number }> {
  const wanted = new Map(prefixes.map((prefix) => [prefix, true]));
  const longest = prefixes.reduce((most, { length }) => Math.max(most, length), 0);
  let [calls, caught] = [0, 0];
  for (const [index, each] of (await callersOf(database, days)).entries()) {
    await betweenCalls(index);
    calls += each.calls;
    if (longestPrefix(wanted, longest, each.caller) !== null) caught += each.calls;
  }
  return { calls, caught };
}

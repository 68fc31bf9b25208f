import { setImmediate } from 'node:timers/promises';
import type { Knex } from 'knex';
import type { RulesCaught } from '@night-bell/core/contracts/plans';
import { standingAt } from '@night-bell/core/hours/opening-hours';
import { isKnownAfterwards, type Rule, type RuleFacts, ruleFor } from '@night-bell/core/plan/rules';
import { readCursor, timeIn, writeCursor } from '../../spine/cursor.ts';
import { compiledHours, hoursItem } from '../hours/store.ts';

const days = 30;
const dayMs = 86_400_000;
/** Looked at in one go, between what is live. */
const batch = 1_000;
const mostCalls = 200_000;

interface PastCall {
  caller: string;
  number_id: string | null;
  source_id: string | null;
  record_id: string | null;
  fields: Record<string, string> | null;
  at: number;
  exactly: string;
  id: string;
}

/**
 * How many of the last month's callers each rule would have taken. Records as they are now; what is not known of a call
 * that is over (keys, languages, how queues stood) leaves it open.
 */
export async function caughtByRules(
  database: Knex,
  rules: readonly Rule[],
  numberIds: readonly string[],
): Promise<RulesCaught> {
  const sets = new Map((await hoursItem.list(database)).map((set) => [set.id, compiledHours(set)]));
  const caught = new Map(rules.map(({ id }) => [id, 0]));
  const counts = { calls: 0, none: 0, unknown: 0 };
  let after: string | null = null;
  do {
    const rows = await pastCalls(database, numberIds, after);
    for (const row of rows) {
      const taken = ruleFor(rules, factsOf(row, sets));
      if (taken === undefined) counts.unknown++;
      else if (taken === null) counts.none++;
      else caught.set(taken.id, caught.get(taken.id)! + 1);
    }
    counts.calls += rows.length;
    const last = rows.at(-1);
    after = rows.length < batch ? null : writeCursor([last!.exactly, last!.id]);
    await setImmediate();
  } while (after !== null && counts.calls < mostCalls);
  return {
    ...{ days, ...counts },
    caught: rules.map((rule) => ({
      id: rule.id,
      calls: isKnownAfterwards(rule) ? caught.get(rule.id)! : null,
    })),
  };
}

async function pastCalls(
  database: Knex,
  numberIds: readonly string[],
  after: string | null,
): Promise<PastCall[]> {
  return (await database('call as c')
    .leftJoin('record as r', 'r.id', 'c.record_id')
    .where('c.direction', 'inbound')
    .where('c.arrived_at', '>=', new Date(Date.now() - days * dayMs))
    .modify((query) => {
      if (numberIds.length > 0) void query.whereRaw('c.number_id = any(?::uuid[])', [[...numberIds]]);
      if (after === null) return;
      const [at, id] = readCursor(after, 2) as [string, string];
      void query.whereRaw('(c.arrived_at, c.id) < (?, ?::uuid)', [timeIn(at), id]);
    })
    .orderBy([
      { column: 'c.arrived_at', order: 'desc' },
      { column: 'c.id', order: 'desc' },
    ])
    .limit(batch)
    .select(
      ...['c.id', 'c.caller', 'c.number_id', 'c.source_id', 'c.record_id', 'r.fields'],
      database.raw('(extract(epoch from c.arrived_at) * 1000)::float8 as at'),
      database.raw(`to_char(c.arrived_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as "exactly"`),
    )) as PastCall[];
}

function factsOf(row: PastCall, sets: ReadonlyMap<string, ReturnType<typeof compiledHours>>): RuleFacts {
  return {
    ...{ from: row.caller, numberId: row.number_id, sourceId: row.source_id },
    ...{ language: undefined, keys: undefined, found: undefined },
    record:
      row.record_id === null
        ? null
        : { id: row.record_id, name: '', ownerId: null, fields: row.fields ?? {} },
    queue: () => undefined,
    hours: (id) => {
      const set = sets.get(id);
      return set === undefined ? null : standingAt(set, row.at).state;
    },
  };
}

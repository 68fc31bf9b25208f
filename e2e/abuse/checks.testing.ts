import { expect } from 'vitest';
import type { Installation } from './installation.testing.ts';

/** What the harness was told is done. */
export interface Acknowledged {
  people: string[];
  optOuts: string[];
  calls: string[];
}

/** By SQL, behind the back of the server: what must hold whatever happened. */
export async function checkEverything(night: Installation, acknowledged: Acknowledged): Promise<void> {
  const { database } = night;
  const rows = async <T>(sql: string, values: unknown[] = []) =>
    (await database.raw<{ rows: T[] }>(sql, values as never)).rows;
  expect(
    await rows(
      'select seq from (select seq, lag(seq) over (order by seq) as before from exchange_event) e where seq <> before + 1',
    ),
    'the log has no gap',
  ).toEqual([]);
  // The story of a call tells its end once, but for calls of which nothing more than their loss can be said.
  expect(
    await rows(
      `select id from call where not rehearsed and json_array_length(story) > 0 and
         (select count(*) from json_array_elements(story) r where r->>'kind' = 'ended') <> 1`,
    ),
    'every call ended once',
  ).toEqual([]);
  const begun = await rows<{ id: string }>(
    `select body->>'callId' as id from exchange_event where body->>'kind' = 'callArrived'`,
  );
  // In this order: what had begun before is in progress now, or over by then.
  const live = await night.send<{ calls: { callId: string }[] }>('GET', '/api/floor');
  const inProgress = live.body.calls.map((call) => call.callId);
  const over = new Set((await rows<{ id: string }>('select id::text as id from call')).map(({ id }) => id));
  const aside = new Set(
    (await rows<{ id: string }>('select unnest(call_ids) as id from set_aside')).map(({ id }) => id),
  );
  const lost = [...begun.map(({ id }) => id), ...acknowledged.calls].filter(
    (id) => !over.has(id) && !inProgress.includes(id) && !aside.has(id),
  );
  expect(lost, 'every call is over or in progress').toEqual([]);
  expect(
    await rows(
      'select contact_id, attempt from call where contact_id is not null and not rehearsed group by 1, 2 having count(*) > 1',
    ),
    'no contact was called twice for one attempt',
  ).toEqual([]);
  expect(
    await rows(
      `select c.id, c.cost, sum(-l.amount) as charged from call c join ledger_entry l on l.call_id = c.id
       group by 1, 2 having c.cost <> sum(-l.amount)`,
    ),
    'what a call cost is what the ledger says',
  ).toEqual([]);
  const known = async (table: string, column: string, wanted: string[]) => {
    const there = new Set(await database(table).whereIn(column, wanted).pluck<string[]>(column));
    return wanted.filter((each) => !there.has(each));
  };
  expect(await known('person', 'id', acknowledged.people), 'people made are there').toEqual([]);
  expect(await known('opt_out', 'e164', acknowledged.optOuts), 'opt-outs said are there').toEqual([]);
}

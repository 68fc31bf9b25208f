import type { Knex } from 'knex';
import type { Destination } from '@night-bell/core/model/destination';
import { Problem } from '../http/problems.ts';

/**
 * Refuses a way out by which callers would come back here without doing anything, and names the whole round. Only queues
 * and ring groups are followed: what a plan does on the way may well end a round, and the exchange ends every other.
 */
export async function refuseRounds<Way extends string>(
  trx: Knex.Transaction,
  here: { id: string; name: string },
  draft: Readonly<Record<Way, Destination | null>>,
  ways: readonly Way[],
): Promise<void> {
  for (const way of ways) {
    const destination = draft[way];
    if (destination?.kind !== 'queue' && destination?.kind !== 'ringGroup') continue;
    const round = await roundFrom(trx, destination.id, here.id);
    if (round !== null)
      throw Problem.field(
        `/${way}`,
        `Callers would go round: ${[here.name, ...round, here.name].join(', then ')}. Let one of them lead elsewhere.`,
      );
  }
}

/** The queues and groups from one on to another by their ways out, by name; null when none leads there. */
async function roundFrom(trx: Knex.Transaction, from: string, to: string): Promise<string[] | null> {
  const row = await trx
    .raw<{ rows: { names: string[] }[] }>(
      `with recursive leads(from_id, to_id) as (
         select q.id, o.item
           from queue q
           cross join lateral (values
             (case when q.max_waiting is not null then q.when_full_kind end, q.when_full_item),
             (case when q.max_wait_seconds is not null then q.when_too_long_kind end, q.when_too_long_item),
             (q.when_nobody_kind, q.when_nobody_item),
             (case when q.hours_id is not null then q.when_closed_kind end, q.when_closed_item),
             (q.when_all_away_kind, q.when_all_away_item)) as o(kind, item)
           where o.kind in ('queue', 'ringGroup')
         union all
         select g.id, (o.way->>'id')::uuid
           from ring_group g
           cross join lateral (values (g.when_unanswered), (g.when_busy), (g.when_outage)) as o(way)
           where o.way->>'kind' in ('queue', 'ringGroup')),
       way(id, names, ids) as (
         select i.id, array[i.name], array[i.id] from item i where i.id = ?
         union all
         select i.id, w.names || i.name, w.ids || i.id
           from way w join leads l on l.from_id = w.id join item i on i.id = l.to_id
           where not i.id = any(w.ids) and cardinality(w.ids) < 20)
       select w.names from way w join leads l on l.from_id = w.id and l.to_id = ?
         order by cardinality(w.names) limit 1`,
      [from, to],
    )
    .then(({ rows }) => rows[0]);
  return row?.names ?? null;
}

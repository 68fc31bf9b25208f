import type { Knex } from 'knex';
import type { QueueDraft } from '@night-bell/core/contracts/queues';
import { Problem } from '../../http/problems.ts';

/** Fields of a queue that lead somewhere. */
export const waysOutOf = [
  'whenFull',
  'whenTooLong',
  'whenNobody',
  'whenClosed',
  'whenAllAway',
  'whenLeaves',
] as const;

/** Ways out that a caller takes without doing anything. A key is their own doing, and may lead round. */
const byItself = ['whenFull', 'whenTooLong', 'whenNobody', 'whenClosed', 'whenAllAway'] as const;

/**
 * Refuses a way out by which callers would come back here without doing anything, and names the whole round. Only queues
 * are followed: what a plan does on the way may well end a round, and the exchange ends every other.
 */
export async function refuseRounds(trx: Knex.Transaction, id: string, draft: QueueDraft): Promise<void> {
  for (const key of byItself) {
    const destination = draft[key];
    if (destination?.kind !== 'queue') continue;
    const round = await roundFrom(trx, destination.id, id);
    if (round !== null)
      throw Problem.field(
        `/${key}`,
        `Callers would go round: ${[draft.name, ...round, draft.name].join(', then ')}. Let one of them lead elsewhere.`,
      );
  }
}

/** The queues from one on to another by their ways out, by name; null when none leads there. */
async function roundFrom(trx: Knex.Transaction, from: string, to: string): Promise<string[] | null> {
  const row = await trx
    .raw<{ rows: { names: string[] }[] }>(
      `with recursive way(id, names, ids) as (
         select i.id, array[i.name], array[i.id] from item i where i.id = ?
         union all
         select i.id, w.names || i.name, w.ids || i.id
           from way w
           join queue q on q.id = w.id
           cross join lateral (values
             (case when q.max_waiting is not null then q.when_full_kind end, q.when_full_item),
             (case when q.max_wait_seconds is not null then q.when_too_long_kind end, q.when_too_long_item),
             (q.when_nobody_kind, q.when_nobody_item),
             (case when q.hours_id is not null then q.when_closed_kind end, q.when_closed_item),
             (q.when_all_away_kind, q.when_all_away_item)) as o(kind, item)
           join item i on i.id = o.item and o.kind = 'queue'
           where not i.id = any(w.ids) and cardinality(w.ids) < 20)
       select w.names from way w join queue q on q.id = w.id
         where ? in (
           case when q.max_waiting is not null and q.when_full_kind = 'queue' then q.when_full_item end,
           case when q.max_wait_seconds is not null and q.when_too_long_kind = 'queue' then q.when_too_long_item end,
           case when q.when_nobody_kind = 'queue' then q.when_nobody_item end,
           case when q.hours_id is not null and q.when_closed_kind = 'queue' then q.when_closed_item end,
           case when q.when_all_away_kind = 'queue' then q.when_all_away_item end)
         order by cardinality(w.names) limit 1`,
      [from, to],
    )
    .then(({ rows }) => rows[0]);
  return row?.names ?? null;
}

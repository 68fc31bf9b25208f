import type { Knex } from 'knex';
import { isFirstTime, isGood, isLost } from '../calls/calls.queries.ts';

export interface SourceCounts {
  sourceId: string | null;
  calls: number;
  answered: number;
  lost: number;
  firstTime: number;
  good: number;
}

/** Counts of inbound calls by source over [from, to), by the definitions the list of calls filters by. */
export async function countBySource(database: Knex, from: Date, to: Date): Promise<SourceCounts[]> {
  const { rows } = await database.raw<{ rows: SourceCounts[] }>(
    `with counted as (
       select c.source_id, c.result, ${isGood} as good, ${isFirstTime} as first_time, ${isLost} as lost
       from call c
       where c.direction = 'inbound' and c.arrived_at >= ? and c.arrived_at < ?)
     select source_id as "sourceId",
       count(*)::int as calls,
       (count(*) filter (where result = 'answered'))::int as answered,
       (count(*) filter (where lost))::int as lost,
       (count(*) filter (where first_time))::int as "firstTime",
       (count(*) filter (where good))::int as good
     from counted group by source_id order by source_id`,
    [from, to],
  );
  return rows;
}

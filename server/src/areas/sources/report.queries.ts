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

export type TrendStep = 'day' | 'week';

/** Counts of one source over [from, to), by days or weeks (from Monday) of the company's clock; those without a call are left out. */
export async function trendOfSource(
  database: Knex,
  { sourceId, from, to, by, zone }: { sourceId: string; from: Date; to: Date; by: TrendStep; zone: string },
): Promise<{ day: string; calls: number; answered: number; good: number }[]> {
  const { rows } = await database.raw<{
    rows: { day: string; calls: number; answered: number; good: number }[];
  }>(
    `with counted as (
       select to_char(date_trunc(?, c.arrived_at at time zone ?), 'YYYY-MM-DD') as day, c.result, ${isGood} as good
       from call c
       where c.direction = 'inbound' and c.source_id = ? and c.arrived_at >= ? and c.arrived_at < ?)
     select day, count(*)::int as calls,
       (count(*) filter (where result = 'answered'))::int as answered,
       (count(*) filter (where good))::int as good
     from counted group by day order by day`,
    [by, zone, sourceId, from, to],
  );
  return rows;
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

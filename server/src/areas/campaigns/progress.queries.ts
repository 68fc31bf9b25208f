import type { Knex } from 'knex';
import type { DayTally } from '@night-bell/core/outbound/pacing';

export interface Progress {
  states: { state: string; count: number }[];
  /** Contacts due later than now, among those that are due. */
  later: number;
  optedOut: number;
  outcomes: { outcome: string | null; count: number }[];
  /** The last day in quarters of an hour: calls that reached a person, of those abandoned, and attempts. */
  quarters: { at: string; attempts: number; answered: number; abandoned: number }[];
  results: { result: string; count: number }[];
}

const people = `result in ('answered', 'abandoned')`;

export async function campaignProgress(database: Knex, campaignId: string, since: Date): Promise<Progress> {
  const calls = () =>
    database('call as c').where('c.campaign_id', campaignId).where('c.direction', 'outbound');
  const [states, later, outcomes, quarters, results] = await Promise.all([
    database('contact')
      .where({ campaign_id: campaignId })
      .groupBy('state')
      .orderBy('state')
      .select<{ state: string; count: number }[]>('state', database.raw('count(*)::int as count')),
    database('contact')
      .where({ campaign_id: campaignId, state: 'due' })
      .where('due_at', '>', database.fn.now())
      .first<{ count: number }>(database.raw('count(*)::int as count')),
    calls()
      .leftJoin('call_outcome as o', 'o.call_id', 'c.id')
      .where('c.result', 'answered')
      .groupBy('o.outcome')
      .orderByRaw('count(*) desc, o.outcome')
      .select<{ outcome: string | null; count: number }[]>(
        'o.outcome',
        database.raw('count(*)::int as count'),
      ),
    calls()
      .where('c.arrived_at', '>=', since)
      .groupByRaw('1')
      .orderByRaw('1')
      .select<{ at: Date; attempts: number; answered: number; abandoned: number }[]>(
        database.raw(`date_bin('15 minutes', c.arrived_at, timestamptz '2000-01-01') as at`),
        database.raw('count(*)::int as attempts'),
        database.raw(`(count(*) filter (where ${people}))::int as answered`),
        database.raw(`(count(*) filter (where result = 'abandoned'))::int as abandoned`),
      ),
    calls()
      .groupBy('c.result')
      .orderByRaw('count(*) desc, c.result')
      .select<{ result: string; count: number }[]>('c.result', database.raw('count(*)::int as count')),
  ]);
  return {
    states,
    later: later?.count ?? 0,
    optedOut: states.find((each) => each.state === 'optedOut')?.count ?? 0,
    outcomes,
    quarters: quarters.map((row) => ({ ...row, at: row.at.toISOString() })),
    results,
  };
}

/** People who answered and abandoned calls by local day, over the last `days` days. */
export async function tallies(
  database: Knex,
  campaignId: string,
  timeZone: string,
  days: number,
): Promise<DayTally[]> {
  const { rows } = await database.raw<{ rows: DayTally[] }>(
    `select (c.arrived_at at time zone ?)::date - date '1970-01-01' as day,
       count(*)::int as answered,
       (count(*) filter (where c.result = 'abandoned'))::int as abandoned
     from call c
     where c.campaign_id = ? and ${people} and c.arrived_at > now() - make_interval(days => ?)
     group by 1 order by 1`,
    [timeZone, campaignId, days + 1],
  );
  return rows;
}

import type { Knex } from 'knex';
import type { QueueMeasured } from '@night-bell/core/contracts/queue-hours';
import type { Live } from '../../live/live.ts';
import { installation } from '../session/store.ts';

const days = 28;

/** What a queue's calls of the last weeks were like: its busiest hour of the day, talk, and how patient callers were. */
export async function measuredOf(database: Knex, live: Live, queueId: string): Promise<QueueMeasured> {
  const { time_zone: zone } = await installation(database);
  const { rows } = await database.raw<{ rows: Omit<QueueMeasured, 'days' | 'all' | 'here'>[] }>(
    `with c as (
       select extract(hour from arrived_at at time zone ?)::int as hour, (arrived_at at time zone ?)::date as day,
           result, talked_ms, coalesce(queued_ms, waited_ms) as queued
         from call where queue_id = ? and direction = 'inbound' and arrived_at > now() - make_interval(days => ?))
     select (select hour from c group by hour order by count(*)::float / count(distinct day) desc, hour limit 1) as hour,
         (select max(each) from (select count(*)::float / count(distinct day) as each from c group by hour) h) as calls,
         (select avg(talked_ms) / 1000 from c where result = 'answered')::float as "talkSeconds",
         (select sum(queued)::float / 1000 / nullif(count(*) filter (where result = 'abandoned'), 0) from c)
           as "patienceSeconds"`,
    [zone, zone, queueId, days],
  );
  const members = live.ready ? (live.exchange.view().queues.get(queueId)?.members ?? []) : [];
  const here = members.filter(({ agent }) => agent.presence !== 'signedOut').length;
  return { days, ...rows[0]!, all: members.length, here };
}

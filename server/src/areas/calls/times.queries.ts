import type { Knex } from 'knex';
import { isLost } from './calls.queries.ts';

/** Calls that came in during one half hour of the day, over several days together. */
export interface HalfHour {
  /** 0 from midnight to 0:30, 47 from 23:30 to midnight. */
  half: number;
  calls: number;
  answered: number;
  lost: number;
  /** Answered within the time the queue aims at; null without a queue. */
  inTime: number | null;
}

export interface CallTimesAsked {
  numberId?: string;
  queueId?: string;
  from: Date;
  to: Date;
  /** Whose clock it is: an IANA zone. */
  zone: string;
}

/** Whether a call was answered within the time its queue aims at. Calls of before say only how long they waited in all. */
const isInTime = `c.result = 'answered' and coalesce(c.queued_ms, c.waited_ms) <= q.goal_seconds * 1000`;

/** How a queue stands towards what it aims at: its inbound calls of today. */
export interface QueueLevel {
  queueId: string;
  offered: number;
  answered: number;
  inTime: number;
}

/** Of every queue that had calls over [from, to), by the last queue a call waited in. */
export async function queueLevels(
  database: Knex,
  { from, to }: { from: Date; to: Date },
): Promise<QueueLevel[]> {
  const { rows } = await database.raw<{ rows: QueueLevel[] }>(
    `select q.id as "queueId", count(*)::int as offered,
         (count(*) filter (where c.result = 'answered'))::int as answered,
         (count(*) filter (where ${isInTime}))::int as "inTime"
       from call c join queue q on q.id = c.queue_id
       where c.direction = 'inbound' and c.arrived_at >= ? and c.arrived_at < ?
       group by q.id`,
    [from, to],
  );
  return rows;
}

/** Inbound calls over [from, to) by half hours of the clock of `zone`; half hours without a call are left out. */
export async function callTimes(
  database: Knex,
  { numberId, queueId, from, to, zone }: CallTimesAsked,
): Promise<HalfHour[]> {
  const counted = database('call as c')
    .where('c.direction', 'inbound')
    .where('c.arrived_at', '>=', from)
    .where('c.arrived_at', '<', to)
    .modify((query) => {
      if (numberId !== undefined) void query.where('c.number_id', numberId);
      if (queueId !== undefined) void query.where('c.queue_id', queueId);
    })
    .leftJoin('queue as q', 'q.id', 'c.queue_id')
    .select(
      'c.result',
      database.raw(`${isInTime} as in_time`),
      database.raw('c.arrived_at at time zone ? as at', [zone]),
      database.raw(`${isLost} as lost`),
    );
  return database
    .from(counted.as('counted'))
    .groupBy('half')
    .orderBy('half')
    .select<HalfHour[]>(
      database.raw(`(extract(hour from at) * 2 + floor(extract(minute from at) / 30))::int as half`),
      database.raw('count(*)::int as calls'),
      database.raw(`(count(*) filter (where result = 'answered'))::int as answered`),
      database.raw('(count(*) filter (where lost))::int as lost'),
      queueId === undefined
        ? database.raw('null as "inTime"')
        : database.raw('(count(*) filter (where in_time))::int as "inTime"'),
    );
}

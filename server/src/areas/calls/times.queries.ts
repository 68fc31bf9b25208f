import type { Knex } from 'knex';
import { isLost } from './calls.queries.ts';

/** Calls that came in during one half hour of the day, over several days together. */
export interface HalfHour {
  /** 0 from midnight to 0:30, 47 from 23:30 to midnight. */
  half: number;
  calls: number;
  answered: number;
  lost: number;
}

export interface CallTimesAsked {
  numberId?: string;
  queueId?: string;
  from: Date;
  to: Date;
  /** Whose clock it is: an IANA zone. */
  zone: string;
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
    .select(
      'c.result',
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
    );
}

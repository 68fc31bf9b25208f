import type { Knex } from 'knex';
import type { CallResult } from '@night-bell/core/exchange/effects';
import type { StoryRecord } from '@night-bell/core/exchange/records';

export interface CallFilter {
  personId?: string;
  queueId?: string;
  numberId?: string;
  result?: CallResult;
  from?: Date;
  to?: Date;
  /** Digits of the caller, or part of them. */
  caller?: string;
  /** Rows behind this call, in the list's order. */
  behind?: string;
  limit: number;
}

export interface CallRow {
  id: string;
  arrivedAt: Date;
  endedAt: Date;
  dialled: string;
  numberId: string | null;
  numberLabel: string | null;
  caller: string;
  callerName: string | null;
  queueId: string | null;
  queueName: string | null;
  personId: string | null;
  personName: string | null;
  result: CallResult;
  endedBy: string;
  waitedMs: number;
  talkedMs: number;
  messageMs: number | null;
  offers: number;
  standIn: boolean;
  rehearsed: boolean;
}

function callRows(database: Knex) {
  return database('call as c')
    .leftJoin('item as n', 'n.id', 'c.number_id')
    .leftJoin('item as q', 'q.id', 'c.queue_id')
    .leftJoin('item as p', 'p.id', 'c.person_id')
    .select(
      'c.id',
      'c.arrived_at as arrivedAt',
      'c.ended_at as endedAt',
      'c.dialled',
      'c.number_id as numberId',
      'n.name as numberLabel',
      'c.caller',
      'c.caller_name as callerName',
      'c.queue_id as queueId',
      'q.name as queueName',
      'c.person_id as personId',
      'p.name as personName',
      'c.result',
      'c.ended_by as endedBy',
      'c.waited_ms as waitedMs',
      'c.talked_ms as talkedMs',
      'c.message_ms as messageMs',
      'c.offers',
      'c.stand_in as standIn',
      'c.rehearsed',
    );
}

/** Calls that are over, newest first, in a total order. */
export async function findCalls(database: Knex, filter: CallFilter): Promise<CallRow[]> {
  return callRows(database)
    .modify((query) => narrow(query, filter))
    .modify((query) => {
      if (filter.behind !== undefined) {
        void query.whereRaw('(c.arrived_at, c.id) < (select b.arrived_at, b.id from call b where b.id = ?)', [
          filter.behind,
        ]);
      }
    })
    .orderBy([
      { column: 'c.arrived_at', order: 'desc' },
      { column: 'c.id', order: 'desc' },
    ])
    .limit(filter.limit) as unknown as Promise<CallRow[]>;
}

export async function callTotals(
  database: Knex,
  filter: CallFilter,
): Promise<{ result: CallResult; count: number }[]> {
  return database('call as c')
    .modify((query) => narrow(query, filter))
    .groupBy('c.result')
    .orderBy('c.result')
    .select('c.result', database.raw('count(*)::int as count'));
}

function narrow(query: Knex.QueryBuilder, filter: CallFilter): void {
  if (filter.personId !== undefined) void query.where('c.person_id', filter.personId);
  if (filter.queueId !== undefined) void query.where('c.queue_id', filter.queueId);
  if (filter.numberId !== undefined) void query.where('c.number_id', filter.numberId);
  if (filter.result !== undefined) void query.where('c.result', filter.result);
  if (filter.from !== undefined) void query.where('c.arrived_at', '>=', filter.from);
  if (filter.to !== undefined) void query.where('c.arrived_at', '<', filter.to);
  if (filter.caller !== undefined)
    void query.where('c.caller', 'like', `%${filter.caller.replace(/\D/g, '')}%`);
}

export async function findCall(
  database: Knex,
  id: string,
): Promise<{ call: CallRow; story: StoryRecord[] } | null> {
  const call = (await callRows(database).where('c.id', id).first()) as unknown as CallRow | undefined;
  if (call === undefined) return null;
  const row = await database('call').where({ id }).first<{ story: StoryRecord[] }>('story');
  return { call, story: row.story };
}

/** The calls before and after this one, in the list's order. */
export async function neighbours(
  database: Knex,
  id: string,
): Promise<{ earlier: string | null; later: string | null }> {
  const place = '(select b.arrived_at, b.id from call b where b.id = ?)';
  const earlier = await database('call')
    .whereRaw(`(arrived_at, id) < ${place}`, [id])
    .orderBy([
      { column: 'arrived_at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .first<{ id: string } | undefined>('id');
  const later = await database('call')
    .whereRaw(`(arrived_at, id) > ${place}`, [id])
    .orderBy([{ column: 'arrived_at' }, { column: 'id' }])
    .first<{ id: string } | undefined>('id');
  return { earlier: earlier?.id ?? null, later: later?.id ?? null };
}

/** What a talk is taken to last in a queue without answered calls, and in direct calls. */
export const usualTalkMs = 180_000;

/** Mean talk of the last week's answered calls, by queue. */
export async function meanTalks(database: Knex): Promise<Map<string, number>> {
  const rows = await database('call')
    .where({ result: 'answered' })
    .andWhere('arrived_at', '>', database.raw(`now() - interval '7 days'`))
    .whereNotNull('queue_id')
    .groupBy('queue_id')
    .orderBy('queue_id')
    .select<{ queue_id: string; mean: number }[]>('queue_id', database.raw('avg(talked_ms)::int as mean'));
  return new Map(rows.map((row) => [row.queue_id, row.mean]));
}

/** Routed numbers with the share of calls they get: as many as in the last week, and never none. */
export async function callShares(database: Knex): Promise<{ to: string; share: number }[]> {
  return database('number as n')
    .join('item as i', 'i.id', 'n.id')
    .leftJoin(
      'call as c',
      (join) =>
        void join
          .on('c.number_id', 'n.id')
          .andOn('c.arrived_at', '>', database.raw(`now() - interval '7 days'`)),
    )
    .whereNull('i.retired_at')
    .whereNotNull('n.destination_kind')
    .groupBy('n.id')
    .orderBy('n.e164')
    .select<{ to: string; share: number }[]>('n.e164 as to', database.raw('(count(c.id) + 1)::int as share'));
}

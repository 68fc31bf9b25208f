import Joi from 'joi';
import type { Knex } from 'knex';
import { type CallResult, callResults, type Direction, directions } from '@night-bell/core/story/facts';
import type { StoryRecord } from '@night-bell/core/story/records';
import { named } from '../../database/named.ts';

export interface CallFilter {
  personId?: string;
  queueId?: string;
  ringGroupId?: string;
  numberId?: string;
  campaignId?: string;
  sourceId?: string;
  recordId?: string;
  direction?: Direction;
  /** Talked long enough, or an outcome that counts as good. */
  good?: boolean;
  /** The caller's first call to any number of ours. */
  firstTime?: boolean;
  /** Named as the caller's lost calls: gave up, turned away, led nowhere. */
  lost?: boolean;
  outcome?: string;
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
  direction: Direction;
  arrivedAt: Date;
  endedAt: Date;
  dialled: string;
  numberId: string | null;
  numberLabel: string | null;
  caller: string;
  callerName: string | null;
  queueId: string | null;
  queueName: string | null;
  ringGroupId: string | null;
  ringGroupName: string | null;
  campaignId: string | null;
  campaignName: string | null;
  sourceId: string | null;
  sourceName: string | null;
  recordId: string | null;
  recordName: string | null;
  trunkName: string | null;
  attempt: number;
  outcome: string | null;
  note: string | null;
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

/** Talked at least as long as the installation says, or the agent's outcome counts as good. */
export const isGood = `(c.talked_ms >= (select good_call_seconds from installation) * 1000
  or exists (select 1 from call_outcome x where x.call_id = c.id and x.good))`;

/** No inbound call from this number before, to any of ours. */
export const isFirstTime = `not exists (
  select 1 from call b where b.caller = c.caller and b.direction = 'inbound' and b.arrived_at < c.arrived_at)`;

/** The caller gave up, was turned away, or the number led nowhere. */
export const isLost = `c.result in ('abandoned', 'turnedAway', 'unroutable')`;

function callRows(database: Knex) {
  return database('call as c')
    .leftJoin('call_outcome as o', 'o.call_id', 'c.id')
    .select(
      'c.id',
      'c.direction',
      'c.campaign_id as campaignId',
      named(database, 'c.campaign_id', 'campaignName'),
      'c.source_id as sourceId',
      named(database, 'c.source_id', 'sourceName'),
      'c.record_id as recordId',
      named(database, 'c.record_id', 'recordName', 'record'),
      named(database, 'c.trunk_id', 'trunkName'),
      'c.attempt',
      'o.outcome',
      'o.note',
      'c.arrived_at as arrivedAt',
      'c.ended_at as endedAt',
      'c.dialled',
      'c.number_id as numberId',
      named(database, 'c.number_id', 'numberLabel'),
      'c.caller',
      'c.caller_name as callerName',
      'c.queue_id as queueId',
      named(database, 'c.queue_id', 'queueName'),
      'c.ring_group_id as ringGroupId',
      named(database, 'c.ring_group_id', 'ringGroupName'),
      'c.person_id as personId',
      named(database, 'c.person_id', 'personName'),
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

const aTime = Joi.date().iso().messages({ 'date.format': 'Times are written like 2026-11-24T14:20:00Z.' });

/** What narrows a list of calls. */
export const callNarrowing = Joi.object<CallFilter>({
  personId: Joi.string().guid(),
  queueId: Joi.string().guid(),
  ringGroupId: Joi.string().guid(),
  numberId: Joi.string().guid(),
  campaignId: Joi.string().guid(),
  sourceId: Joi.string().guid(),
  recordId: Joi.string().guid(),
  direction: Joi.string().valid(...directions),
  good: Joi.boolean(),
  firstTime: Joi.boolean(),
  lost: Joi.boolean(),
  outcome: Joi.string().max(40),
  result: Joi.string().valid(...callResults),
  from: aTime,
  to: aTime,
  caller: Joi.string()
    .max(20)
    .pattern(/\d/)
    .messages({ 'string.pattern.base': "Type some of the caller's digits." }),
});

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
  if (filter.ringGroupId !== undefined) void query.where('c.ring_group_id', filter.ringGroupId);
  if (filter.numberId !== undefined) void query.where('c.number_id', filter.numberId);
  if (filter.campaignId !== undefined) void query.where('c.campaign_id', filter.campaignId);
  if (filter.sourceId !== undefined) void query.where('c.source_id', filter.sourceId);
  if (filter.recordId !== undefined) void query.where('c.record_id', filter.recordId);
  // Lines held open between calls are no calls of anybody's; they are shown when asked for.
  if (filter.direction === undefined) void query.whereNot('c.direction', 'line');
  else void query.where('c.direction', filter.direction);
  if (filter.outcome !== undefined)
    void query.whereRaw('exists (select 1 from call_outcome x where x.call_id = c.id and x.outcome = ?)', [
      filter.outcome,
    ]);
  if (filter.good === true) void query.whereRaw(isGood);
  if (filter.firstTime === true) void query.whereRaw(isFirstTime);
  if (filter.lost === true) void query.whereRaw(isLost);
  if (filter.result !== undefined) void query.where('c.result', filter.result);
  if (filter.from !== undefined) void query.where('c.arrived_at', '>=', filter.from);
  if (filter.to !== undefined) void query.where('c.arrived_at', '<', filter.to);
  if (filter.caller !== undefined)
    void query.whereRaw(`case when c.direction = 'inbound' then c.caller else c.dialled end like ?`, [
      `%${filter.caller.replace(/\D/g, '')}%`,
    ]);
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

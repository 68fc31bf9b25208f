import Joi from 'joi';
import type { Knex } from 'knex';
import type { LeasedContact } from '@night-bell/core/exchange/kernel/events';
import type { RecordFacts } from '@night-bell/core/story/facts';
import { afterAttempt, type AttemptResult, dueKey, type RetryRules } from '@night-bell/core/outbound/retry';
import { type CallingHours, nextCallable } from '@night-bell/core/outbound/window';
import { v7 as uuid } from 'uuid';
import { zoneClocks } from '../../live/zones.ts';
import { recordOfNumber } from '../records/store.ts';

/** How soon the exchange may ask again when contacts are in the air and nobody else is due. */
const askAgainMs = 20_000;

interface TakenRow {
  id: string;
  e164: string;
  name: string;
  attempts: number;
  zones: string[];
  hoursFrom: number;
  hoursTo: number;
  record: RecordFacts | null;
}

/**
 * Hands out contacts that are due, in the order of their due keys, and marks them as leased. Who is due but out of the
 * calling hours by now gets a new due key instead.
 */
export async function leaseContacts(
  database: Knex,
  campaignId: string,
  count: number,
): Promise<{ contacts: LeasedContact[]; askAgainAt: number | null }> {
  const contacts: LeasedContact[] = [];
  while (contacts.length < count) {
    const rows = await takeDue(database, campaignId, count - contacts.length);
    if (rows.length === 0) break;
    for (const row of rows) {
      const now = Date.now();
      const hours = { from: row.hoursFrom, to: row.hoursTo };
      const stretch = nextCallable(now, zoneClocks(row.zones), hours);
      if (stretch === null) await setState(database, row.id, 'unreached', null);
      else if (stretch.from > now) await setState(database, row.id, 'due', stretch.from);
      else {
        contacts.push({
          contactId: row.id,
          callId: uuid(),
          e164: row.e164,
          name: row.name,
          attempt: row.attempts + 1,
          callableUntil: stretch.until,
          record: row.record,
        });
      }
    }
  }
  return { contacts, askAgainAt: contacts.length > 0 ? null : await askAgainAt(database, campaignId) };
}

/** One statement, so that the next contact costs one journey to the database; each with hours and record. */
async function takeDue(database: Knex, campaignId: string, count: number): Promise<TakenRow[]> {
  const { rows } = await database.raw<{ rows: TakenRow[] }>(
    `with due as (
       select id from contact where campaign_id = ? and state = 'due' and due_at <= now()
       order by due_at, position limit ? for update skip locked),
     taken as (
       update contact c set state = 'leased', due_at = null from due where c.id = due.id
       returning c.id, c.e164, c.name, c.attempts, c.zones, c.position, c.campaign_id)
     select t.id, t.e164, t.name, t.attempts, t.zones,
       g.hours_from as "hoursFrom", g.hours_to as "hoursTo", to_jsonb(known) as record
     from taken t
     join campaign g on g.id = t.campaign_id
     left join lateral (${recordOfNumber('t.e164')}) known on true
     order by t.position`,
    [campaignId, count],
  );
  return rows;
}

/** When there may be somebody due: the next due key; soon, while calls are out; null when nobody is left. */
async function askAgainAt(database: Knex, campaignId: string): Promise<number | null> {
  const row = await database('contact')
    .where({ campaign_id: campaignId })
    .whereIn('state', ['due', 'leased', 'inAir'])
    .first<{ due: Date | null; out: number }>(
      database.raw('min(due_at) as due'),
      database.raw(`(count(*) filter (where state <> 'due'))::int as out`),
    );
  if (row === undefined || (row.due === null && row.out === 0)) return null;
  const soon = Date.now() + askAgainMs;
  if (row.due === null) return soon;
  return row.out > 0 ? Math.min(row.due.getTime(), soon) : row.due.getTime();
}

async function setState(
  trx: Knex,
  id: string,
  state: 'due' | 'unreached',
  dueAt: number | null,
): Promise<void> {
  await trx('contact')
    .where({ id })
    .update({ state, due_at: dueAt === null ? null : new Date(dueAt) });
}

/** Contacts the exchange gives back: their attempt did not happen. */
export async function returnContacts(trx: Knex, ids: string[]): Promise<void> {
  await trx('contact')
    .whereIn('id', ids)
    .where({ state: 'leased' })
    .update({
      state: trx.raw(
        `case when exists (select 1 from opt_out o where o.e164 = contact.e164) then 'optedOut' else 'due' end`,
      ),
      due_at: trx.raw(
        `case when exists (select 1 from opt_out o where o.e164 = contact.e164) then null else now() end`,
      ),
    });
}

/** The call goes out now: this attempt counts, whatever becomes of it. */
export async function contactDialled(
  trx: Knex,
  contact: { id: string; attempt: number },
  callId: string,
): Promise<void> {
  await trx('contact')
    .where({ id: contact.id })
    .update({ state: 'inAir', attempts: contact.attempt, last_call_id: callId, last_at: trx.fn.now() });
}

/** What became of an attempt; the rules of core say what becomes of the contact. */
export async function contactEnded(
  trx: Knex,
  ended: { contactId: string; campaignId: string; attempt: number; result: string; at: number },
): Promise<void> {
  const rules = await retryRules(trx, ended.campaignId);
  const row = await trx('contact')
    .where({ id: ended.contactId })
    .first<{ zones: string[] } | undefined>('zones');
  if (rules === null || row === undefined) return;
  const result = ended.result as AttemptResult;
  const { state, dueAt } = afterAttempt(result, ended.attempt, ended.at, zoneClocks(row.zones), rules);
  await trx('contact')
    .where({ id: ended.contactId, state: 'inAir' })
    .update({ state, due_at: dueAt === null ? null : new Date(dueAt), last_result: result });
  if (result !== 'answered') return;
  const outcome = await trx('call_outcome as o')
    .join('contact as k', 'k.last_call_id', 'o.call_id')
    .where('k.id', ended.contactId)
    .first<{ then_what: string } | undefined>('o.then_what');
  if (outcome?.then_what === 'tryAgain') await contactAgain(trx, ended.contactId, ended.campaignId);
}

/** The agent asks for another try, or the gap after a talk: due again as after a call that was not answered. */
export async function contactAgain(trx: Knex, contactId: string, campaignId: string): Promise<void> {
  const rules = await retryRules(trx, campaignId);
  const row = await trx('contact')
    .where({ id: contactId })
    .first<{ zones: string[]; attempts: number } | undefined>('zones', 'attempts');
  if (rules === null || row === undefined) return;
  const again = { ...rules, attempts: Math.max(rules.attempts, row.attempts + 1) };
  const { state, dueAt } = afterAttempt('noAnswer', row.attempts, Date.now(), zoneClocks(row.zones), again);
  await trx('contact')
    .where({ id: contactId, state: 'talked' })
    .update({ state, due_at: dueAt === null ? null : new Date(dueAt) });
}

/** New calling hours: who is due gets a due key by them. */
export async function rescheduleContacts(trx: Knex, campaignId: string, hours: CallingHours): Promise<void> {
  const groups = await trx('contact')
    .where({ campaign_id: campaignId, state: 'due' })
    .groupBy('zones')
    .orderBy('zones')
    .pluck<string[][]>('zones');
  for (const zones of groups) {
    const due = dueKey(Date.now(), zoneClocks(zones), hours);
    await trx('contact')
      .where({ campaign_id: campaignId, state: 'due', attempts: 0 })
      .whereRaw('zones = ?::text[]', [zones])
      .update(due === null ? { state: 'unreached', due_at: null } : { due_at: new Date(due) });
  }
}

async function retryRules(database: Knex, campaignId: string): Promise<RetryRules | null> {
  const row = await database('campaign')
    .where({ id: campaignId })
    .first<{ attempts: number; retry_minutes: number; hours_from: number; hours_to: number } | undefined>(
      'attempts',
      'retry_minutes',
      'hours_from',
      'hours_to',
    );
  return row === undefined
    ? null
    : {
        attempts: row.attempts,
        retryMinutes: row.retry_minutes,
        hours: { from: row.hours_from, to: row.hours_to },
      };
}

export interface ContactRow {
  id: string;
  position: number;
  e164: string;
  name: string;
  fields: Record<string, string>;
  zones: string[];
  state: string;
  dueAt: string | null;
  attempts: number;
  lastResult: string | null;
  lastCallId: string | null;
  lastAt: string | null;
  outcome: string | null;
}

export const contactsNarrowing = {
  state: Joi.string().valid('due', 'leased', 'inAir', 'talked', 'optedOut', 'unreached', 'invalid'),
  text: Joi.string().allow('').max(80),
};

/** Contacts of a campaign in list order, by state or by words of name and number. */
export async function findContacts(
  database: Knex,
  campaignId: string,
  filter: { state?: string; text?: string; behind?: number; limit: number },
): Promise<ContactRow[]> {
  return database('contact as k')
    .leftJoin('call_outcome as o', 'o.call_id', 'k.last_call_id')
    .where('k.campaign_id', campaignId)
    .modify((query) => {
      if (filter.state !== undefined) void query.where('k.state', filter.state);
      if (filter.behind !== undefined) void query.where('k.position', '>', filter.behind);
      const text = filter.text?.trim() ?? '';
      if (text === '') return;
      const digits = text.replace(/\D/g, '');
      void query.where((either) => {
        void either.whereILike('k.name', `%${text.replace(/[\\%_]/g, '\\$&')}%`);
        if (digits.length >= 3) void either.orWhereLike('k.e164', `%${digits}%`);
      });
    })
    .orderBy('k.position')
    .limit(filter.limit)
    .select<ContactRow[]>(
      'k.id',
      'k.position',
      'k.e164',
      'k.name',
      'k.fields',
      'k.zones',
      'k.state',
      'k.due_at as dueAt',
      'k.attempts',
      'k.last_result as lastResult',
      'k.last_call_id as lastCallId',
      'k.last_at as lastAt',
      'o.outcome',
    );
}

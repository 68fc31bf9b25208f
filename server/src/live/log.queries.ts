import type { Knex } from 'knex';
import type { ExchangeEvent } from '@night-bell/core/exchange/kernel/events';
import type { ExchangeSnapshot } from '@night-bell/core/exchange/snapshot';
import type { CallFacts } from '@night-bell/core/story/facts';
import { upgradeEvent } from '@night-bell/core/exchange/upgrade';
import type { StoryRecord } from '@night-bell/core/story/records';

/** Events after `seq` and up to `last`, in order, at most `most`. */
export async function eventsAfter(
  database: Knex,
  seq: number,
  last: number | null = null,
  most = 5_000,
): Promise<ExchangeEvent[]> {
  const rows = await database('exchange_event')
    .where('seq', '>', seq)
    .modify((query) => {
      if (last !== null) void query.andWhere('seq', '<=', last);
    })
    .orderBy('seq')
    .limit(most)
    .select<{ seq: number; at: number; body: object }[]>('seq', 'at', 'body');
  return rows.map((row) => upgradeEvent({ ...row.body, seq: row.seq, at: row.at } as ExchangeEvent));
}

/** The last number taken in the log; 0 while it is empty. */
export async function lastSeq(database: Knex): Promise<number> {
  const row = await database('exchange_event').max<{ max: number | null }[]>('seq as max').first();
  return row?.max ?? 0;
}

/** The first number the log still holds; null while it is empty. */
export async function firstSeq(database: Knex): Promise<number | null> {
  const row = await database('exchange_event').min<{ min: number | null }[]>('seq as min').first();
  return row?.min ?? null;
}

/** In place of an event that cannot be replayed; what it was is kept elsewhere. */
export async function replaceEvent(trx: Knex, { seq, at: _at, ...body }: ExchangeEvent): Promise<void> {
  await trx('exchange_event')
    .where({ seq })
    .update({ body: JSON.stringify(body) });
}

/** The primary key refuses a `seq` that another host has written. */
export async function appendEvents(trx: Knex, events: ExchangeEvent[]): Promise<void> {
  await trx('exchange_event').insert(
    events.map(({ seq, at, ...body }) => ({ seq, at, body: JSON.stringify(body) })),
  );
}

export interface EndedCall {
  facts: CallFacts;
  story: StoryRecord[];
}

/** The row that is kept of a call that is over. */
export function callRow({ facts, story }: EndedCall, rehearsed = false) {
  const instant = (at: number | null) => (at === null ? null : new Date(at));
  return {
    id: facts.callId,
    dialled: facts.to,
    caller: facts.from,
    caller_name: facts.callerName,
    number_id: facts.numberId,
    queue_id: facts.queueId,
    ring_group_id: facts.ringGroupId,
    person_id: facts.personId,
    result: facts.result,
    ended_by: facts.endedBy,
    arrived_at: new Date(facts.arrivedAt),
    answered_at: instant(facts.answeredAt),
    ended_at: new Date(facts.endedAt),
    ...{ waited_ms: facts.waitedMs, queued_ms: facts.queuedMs ?? null },
    talked_ms: facts.talkedMs,
    message_ms: facts.messageMs,
    voicemail_box_id: facts.voicemailBoxId,
    offers: facts.offers,
    direction: facts.direction,
    trunk_id: facts.trunkId,
    campaign_id: facts.campaignId,
    contact_id: facts.contactId,
    attempt: facts.attempt,
    record_id: facts.recordId,
    source_id: facts.sourceId,
    stand_in: facts.standIn,
    rehearsed,
    story,
  };
}

/** One row of facts for each call that is over; writing it again changes nothing. */
export async function writeCalls(trx: Knex, calls: EndedCall[], rehearsed = false): Promise<void> {
  for (let i = 0; i < calls.length; i += 500) {
    await trx('call')
      .insert(
        calls
          .slice(i, i + 500)
          .map((call) => ({ ...callRow(call, rehearsed), story: JSON.stringify(call.story) })),
      )
      .onConflict('id')
      .ignore();
  }
}

/** All that can be said for certain of a call whose facts cannot be written: when it was, and that it was lost. */
export async function writeLostCall(trx: Knex, facts: CallFacts): Promise<void> {
  const digits = (text: string) =>
    String(text)
      .replace(/[^0-9A-Za-z+*#]/g, '')
      .slice(0, 40);
  await trx('call')
    .insert({
      id: facts.callId,
      direction: facts.direction,
      dialled: digits(facts.to),
      caller: digits(facts.from),
      result: 'lost',
      ended_by: 'exchange',
      arrived_at: new Date(facts.arrivedAt),
      ended_at: new Date(facts.endedAt),
      waited_ms: 0,
      talked_ms: 0,
      offers: 0,
      stand_in: facts.standIn,
      story: '[]',
    })
    .onConflict('id')
    .ignore();
}

export interface Checkpoint {
  seq: number;
  engineVersion: number;
  state: ExchangeSnapshot;
  stories: [string, StoryRecord[]][];
}

/** The latest checkpoint; with `last`, the latest that holds no later event. */
export async function lastCheckpoint(database: Knex, last: number | null = null): Promise<Checkpoint | null> {
  const row = await database('exchange_checkpoint')
    .modify((query) => {
      if (last !== null) void query.where('seq', '<=', last);
    })
    .orderBy('seq', 'desc')
    .first<
      | { seq: number; engine_version: number; state: ExchangeSnapshot; stories: [string, StoryRecord[]][] }
      | undefined
    >();
  return row === undefined
    ? null
    : { seq: row.seq, engineVersion: row.engine_version, state: row.state, stories: row.stories };
}

/** Writes a checkpoint, and forgets what no restart will need: old checkpoints, old events, inbox rows done. */
export async function writeCheckpoint(trx: Knex, checkpoint: Checkpoint): Promise<void> {
  await trx('exchange_checkpoint')
    .insert({
      seq: checkpoint.seq,
      engine_version: checkpoint.engineVersion,
      state: JSON.stringify(checkpoint.state),
      stories: JSON.stringify(checkpoint.stories),
    })
    .onConflict('seq')
    .ignore();
  const kept = await trx('exchange_checkpoint').orderBy('seq', 'desc').limit(3).pluck<number[]>('seq');
  await trx('exchange_checkpoint')
    .where('seq', '<', Math.min(...kept))
    .delete();
  const dayBefore = checkpoint.state.now - 24 * 3_600_000;
  await trx('exchange_event')
    .where('seq', '<=', Math.min(...kept))
    .andWhere('at', '<', dayBefore)
    .delete();
  await trx('exchange_inbox')
    .whereRaw(`at < now() - interval '1 hour' and (done_seq is not null or refusal is not null)`)
    .delete();
}

export interface InboxRow {
  id: number;
  body: { kind: string };
}

/** Commands of people that nobody has carried out yet, in order. Changes of the set-up are no commands. */
export async function openCommands(database: Knex): Promise<InboxRow[]> {
  return database('exchange_inbox')
    .whereNull('done_seq')
    .whereNull('refusal')
    .whereRaw(`body->>'kind' <> 'recompile'`)
    .orderBy('id')
    .limit(200)
    .select<InboxRow[]>('id', 'body');
}

/** Changes of the set-up that the exchange has not heard of, in order. */
export async function openSetUpChanges(database: Knex): Promise<number[]> {
  return database('exchange_inbox')
    .whereNull('done_seq')
    .whereNull('refusal')
    .whereRaw(`body->>'kind' = 'recompile'`)
    .orderBy('id')
    .pluck<number[]>('id');
}

export async function closeCommands(
  trx: Knex,
  done: { id: number; seq: number; refusal: string | null }[],
): Promise<void> {
  if (done.length === 0) return;
  await trx.raw(
    `update exchange_inbox x set done_seq = case when d.refusal is null then d.seq end, refusal = d.refusal
     from json_to_recordset(?) as d (id bigint, seq bigint, refusal text) where x.id = d.id`,
    [JSON.stringify(done)],
  );
}

export async function commandOutcomes(
  database: Knex,
  ids: number[],
): Promise<{ id: number; done_seq: number | null; refusal: string | null }[]> {
  return database('exchange_inbox')
    .whereIn('id', ids)
    .andWhere((query) => void query.whereNotNull('done_seq').orWhereNotNull('refusal'))
    .orderBy('id')
    .select('id', 'done_seq', 'refusal');
}

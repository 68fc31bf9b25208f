import type { Knex } from 'knex';
import type { MessageState, MessageView } from '@night-bell/core/contracts/voicemail-boxes';
import { formatNumber } from '@night-bell/core/numbers/format';
import { span } from '@night-bell/core/story/span';
import type { CallFacts } from '@night-bell/core/story/facts';
import { Problem } from '../../http/problems.ts';
import { queueLetters } from '../../mail/outbox.ts';
import type { Prepared } from '../../sound/prepared.ts';
import { type Author, newId, recordChange, tellPages } from '../../spine/items.ts';

interface Row extends Omit<MessageView, 'at' | 'heardAt' | 'deletedAt' | 'sound'> {
  at: Date;
  heardAt: Date | null;
  deletedAt: Date | null;
  peaks: number[] | null;
  soundSeconds: number | null;
}

function messageRows(database: Knex): Knex.QueryBuilder<Row, Row[]> {
  return database('message as m')
    .leftJoin('message_sound as s', 's.call_id', 'm.call_id')
    .leftJoin('item as h', 'h.id', 'm.heard_by')
    .leftJoin('item as f', 'f.id', 'm.forwarded_by')
    .select<Row[]>(
      ...[
        'm.id',
        'm.box_id as boxId',
        'm.call_id as callId',
        'm.caller as from',
        'm.caller_name as callerName',
      ],
      ...['m.at', 'm.seconds', 'm.state', 'm.heard_at as heardAt', 'm.deleted_at as deletedAt'],
      ...['h.name as heardBy', 'f.name as forwardedBy', 's.peaks', 's.seconds as soundSeconds'],
    ) as unknown as Knex.QueryBuilder<Row, Row[]>;
}

function viewOf({ at, heardAt, deletedAt, peaks, soundSeconds, ...row }: Row): MessageView {
  return {
    ...row,
    seconds: Math.round(row.seconds),
    at: at.getTime(),
    heardAt: heardAt?.getTime() ?? null,
    deletedAt: deletedAt?.getTime() ?? null,
    sound: peaks === null || soundSeconds === null ? null : { peaks, seconds: soundSeconds },
  };
}

/** Messages of a box, latest first, those deleted today among them; `before` is the `at` of the last one seen. */
export async function messagesOf(
  database: Knex,
  boxId: string,
  { before, most }: { before: number | null; most: number },
): Promise<MessageView[]> {
  const rows = await messageRows(database)
    .where('m.box_id', boxId)
    .modify((query) => {
      if (before !== null) void query.andWhere('m.at', '<', new Date(before));
    })
    .orderBy([
      { column: 'm.at', order: 'desc' },
      { column: 'm.id', order: 'desc' },
    ])
    .limit(most);
  return rows.map(viewOf);
}

export async function messagesById(database: Knex, ids: readonly string[]): Promise<MessageView[]> {
  const rows = await messageRows(database).whereIn('m.id', ids);
  if (rows.length < new Set(ids).size) throw new Problem('notFound', 'A message is gone meanwhile.');
  return rows.map(viewOf);
}

/** Keeps the message of a call that ended in voicemail, and tells who is to be told. A repeat keeps one. */
export async function keepMessage(trx: Knex, facts: CallFacts): Promise<void> {
  const { voicemailBoxId: boxId, messageMs, callId, from, callerName, endedAt } = facts;
  if (boxId === null || messageMs === null) return;
  const at = new Date(endedAt - messageMs);
  const kept = await trx('message')
    .insert({
      ...{ id: newId(), box_id: boxId, call_id: callId, caller: from, caller_name: callerName },
      ...{ at, seconds: messageMs / 1000 },
    })
    .onConflict(['box_id', 'call_id'])
    .ignore()
    .returning<{ id: string }[]>('id');
  if (kept.length === 0) return;
  const box = await trx('voicemail_box as v')
    .join('item as i', 'i.id', 'v.id')
    .where('v.id', boxId)
    .first<{ name: string; mail_to: string[] }>('i.name', 'v.mail_to');
  const who = callerName ?? (from === '' ? 'a caller who withholds their number' : formatNumber(from));
  await queueLetters(
    trx,
    box.mail_to.map((to) => ({
      to,
      subject: `New message from ${who}`,
      text: `${who} left a message of ${span(messageMs)} in ${box.name}.\n\nHear it at your desk in Night Bell.\n`,
    })),
  );
  await tellPages(trx, 'voicemail', boxId);
}

/** Keeps what was recorded of a call. It may come before or after its message. */
export async function keepRecording(database: Knex, callId: string, sound: Prepared): Promise<void> {
  await database.transaction(async (trx) => {
    await trx('message_sound')
      .insert({
        ...{ call_id: callId, seconds: sound.seconds, peaks: sound.peaks },
        telephone: Buffer.from(sound.telephone),
      })
      .onConflict('call_id')
      .ignore();
    for (const boxId of await trx('message').where({ call_id: callId }).pluck<string[]>('box_id'))
      await tellPages(trx, 'voicemail', boxId);
  });
}

export async function recordingOf(database: Knex, callId: string): Promise<Buffer> {
  const row = await database('message_sound')
    .where({ call_id: callId })
    .first<{ telephone: Buffer } | undefined>('telephone');
  if (row === undefined) throw new Problem('notFound', 'The sound of this message is not there.');
  return row.telephone;
}

/** One line in the history of each box: what was done with which messages. */
async function told(
  trx: Knex.Transaction,
  messages: readonly MessageView[],
  what: 'heard' | 'kept' | 'deleted' | 'restored' | 'forwarded' | 'calledBack',
  author: Author,
  more: object = {},
): Promise<void> {
  for (const boxId of new Set(messages.map((message) => message.boxId))) {
    const of = messages.filter((message) => message.boxId === boxId);
    const after = { from: of.map(({ from }) => from).slice(0, 5), count: of.length, ...more };
    await recordChange(trx, { item_id: boxId, what, before: null, after }, author);
    await tellPages(trx, 'voicemail', boxId);
  }
}

/** That somebody listens: the first time stands in the history. */
export async function recordHearing(
  database: Knex,
  message: MessageView,
  personId: string,
  author: Author,
): Promise<void> {
  await database.transaction(async (trx) => {
    const first = await trx('message_hearing')
      .insert({ message_id: message.id, person_id: personId })
      .onConflict(['message_id', 'person_id'])
      .ignore()
      .returning('message_id');
    if (first.length > 0) await told(trx, [message], 'heard', author);
  });
}

export async function markMessages(
  trx: Knex.Transaction,
  messages: readonly MessageView[],
  state: MessageState,
  author: Author,
): Promise<void> {
  const ids = messages.map(({ id }) => id);
  await trx('message')
    .whereIn('id', ids)
    .update({
      state,
      ...(state === 'new'
        ? { heard_by: null, heard_at: null }
        : {
            heard_by: trx.raw('coalesce(heard_by, ?)', [author.personId]),
            heard_at: trx.raw('coalesce(heard_at, now())'),
          }),
    });
  if (state === 'kept') return told(trx, messages, 'kept', author);
  for (const boxId of new Set(messages.map((message) => message.boxId)))
    await tellPages(trx, 'voicemail', boxId);
}

/** Deletes, or brings back what was deleted today. The exchange hears how many the boxes hold more or fewer. */
export async function deleteMessages(
  trx: Knex.Transaction,
  messages: readonly MessageView[],
  deleted: boolean,
  author: Author,
): Promise<void> {
  const meant = messages.filter(({ deletedAt }) => (deletedAt === null) === deleted);
  await trx('message')
    .whereIn(
      'id',
      meant.map(({ id }) => id),
    )
    .update({ deleted_at: deleted ? trx.fn.now() : null });
  await tellExchange(trx, countByBox(meant), deleted ? -1 : 1);
  await told(trx, meant, deleted ? 'deleted' : 'restored', author);
}

/** Messages stand in another box too, as new ones; where one is already it is not doubled. Says how many came. */
export async function forwardMessages(
  trx: Knex.Transaction,
  messages: readonly MessageView[],
  to: { id: string; name: string },
  author: Author,
): Promise<number> {
  const came = await trx('message')
    .insert(
      messages.map(({ callId, from, callerName, at, seconds }) => ({
        ...{ id: newId(), box_id: to.id, call_id: callId, caller: from, caller_name: callerName },
        ...{ at: new Date(at), seconds, forwarded_by: author.personId },
      })),
    )
    .onConflict(['box_id', 'call_id'])
    .ignore()
    .returning('id');
  if (came.length > 0) await tellExchange(trx, new Map([[to.id, came.length]]), 1);
  await told(trx, messages, 'forwarded', author, { to: to.name });
  await tellPages(trx, 'voicemail', to.id);
  return came.length;
}

export async function recordCallBack(
  trx: Knex.Transaction,
  message: MessageView,
  author: Author,
): Promise<void> {
  await told(trx, [message], 'calledBack', author);
}

function countByBox(messages: readonly { boxId: string }[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { boxId } of messages) counts.set(boxId, (counts.get(boxId) ?? 0) + 1);
  return counts;
}

/** In the transaction that changes them, so that the exchange never counts what is not there. */
export async function tellExchange(
  trx: Knex,
  counts: ReadonlyMap<string, number>,
  sign: 1 | -1,
): Promise<void> {
  if (counts.size === 0) return;
  await trx('exchange_inbox').insert(
    [...counts].map(([boxId, count]) => ({
      body: JSON.stringify({ kind: 'messagesChanged', boxId, by: sign * count }),
    })),
  );
  await trx.raw(`select pg_notify('night_bell_inbox', '')`);
}

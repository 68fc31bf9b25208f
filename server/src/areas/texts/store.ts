import type { Knex } from 'knex';
import { readAmount } from '@night-bell/core/model/amount';
import type { TextReader } from '@night-bell/core/model/numbers.schema';
import type { TextDraft } from '@night-bell/core/model/texts.schema';
import { asksToStop } from '@night-bell/core/texts/stop-words';
import { Problem } from '../../http/problems.ts';
import { textsChannel } from '../../live/channels.ts';
import { newId } from '../../spine/items.ts';
import { addEntries, balance } from '../balance/store.ts';
import { addOptOuts } from '../opt-outs/store.ts';

export interface Text {
  id: string;
  numberId: string;
  /** Ours. */
  number: string;
  label: string;
  /** Theirs, and what the records call them. */
  other: string;
  name: string | null;
  /** They asked for no more calls and texts. */
  optedOut: boolean;
  direction: 'in' | 'out';
  body: string;
  at: string;
  state: 'received' | 'waiting' | 'sent' | 'failed';
  why: string | null;
  by: string | null;
}

/** A number that takes texts, and who reads them. */
export interface TextNumber {
  id: string;
  e164: string;
  reader: TextReader;
}

export interface ArrivedText {
  ref: string;
  to: string;
  from: string;
  body: string;
  price: string;
}

export interface WaitingText {
  id: string;
  from: string;
  to: string;
  body: string;
}

const mostShown = 200;
/** After this long without an answer a provider is asked again; it knows the text by its name. */
const askAgainSeconds = 30;

/** Tells all servers, with the transaction. */
async function tell(database: Knex): Promise<void> {
  await database.raw(`select pg_notify('${textsChannel}', '')`);
}

/** All of them, or the one with this id or these digits. */
export async function textNumbers(
  database: Knex,
  which: { id?: string; e164?: string } = {},
): Promise<TextNumber[]> {
  const rows = await database('number')
    .where(which)
    .whereNotNull('texts_item')
    .whereNotNull('e164')
    .select<{ id: string; e164: string; texts_kind: TextReader['kind']; texts_item: string }[]>(
      'id',
      'e164',
      'texts_kind',
      'texts_item',
    );
  return rows.map(({ id, e164, texts_kind: kind, texts_item: item }) => ({
    id,
    e164,
    reader: { kind, id: item },
  }));
}

/** Latest first. */
export async function listTexts(database: Knex, numberIds: readonly string[]): Promise<Text[]> {
  const rows = await database('text_message as t')
    .join('number as n', 'n.id', 't.number_id')
    .join('item as i', 'i.id', 'n.id')
    .leftJoin('item as p', 'p.id', 't.by_person')
    .whereIn('t.number_id', numberIds)
    .orderBy([
      { column: 't.at', order: 'desc' },
      { column: 't.id', order: 'desc' },
    ])
    .limit(mostShown)
    .select<(Omit<Text, 'at'> & { at: Date })[]>(
      't.id',
      't.number_id as numberId',
      database.raw('coalesce(n.e164, n.given_up_e164) as number'),
      'i.name as label',
      't.other_side as other',
      database.raw(
        `(select r.name from record_number rn join record r on r.id = rn.record_id
          where rn.e164 = t.other_side limit 1) as name`,
      ),
      database.raw('exists (select 1 from opt_out o where o.e164 = t.other_side) as "optedOut"'),
      't.direction',
      't.body',
      't.at',
      't.state',
      't.why',
      'p.name as by',
    );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Writes a text of ours down; it goes out from there, also after a crash. */
export async function writeText(
  trx: Knex.Transaction,
  draft: TextDraft,
  byPerson: string,
  at = new Date(),
): Promise<string> {
  if ((await trx('opt_out').where({ e164: draft.to }).first('e164')) !== undefined)
    throw Problem.field('/to', 'This number asked for no more calls and texts.');
  if ((await balance(trx)) <= 0n)
    throw new Problem('notNow', 'The balance is used up. Pay in under Numbers, Balance, then send it.');
  const id = newId();
  await trx('text_message').insert({
    id,
    number_id: draft.numberId,
    other_side: draft.to,
    direction: 'out',
    body: draft.body,
    state: 'waiting',
    by_person: byPerson,
    at,
  });
  await tell(trx);
  return id;
}

/**
 * Writes a text down that a plan sends to its caller. One that cannot go out is there too, with why: nobody waits for an
 * answer.
 */
export async function writeTextOfCall(
  trx: Knex,
  { numberId, to, body }: { numberId: string; to: string; body: string },
): Promise<void> {
  const number = await trx('number')
    .where({ id: numberId })
    .first<{ e164: string | null } | undefined>('e164');
  if (number === undefined) return;
  const isOptedOut = (await trx('opt_out').where({ e164: to }).first('e164')) !== undefined;
  const why = isOptedOut
    ? 'This number asked for no more calls and texts.'
    : number.e164 === null
      ? 'The number it was to be sent from is given up.'
      : (await balance(trx)) <= 0n
        ? 'The balance is used up.'
        : null;
  await trx('text_message').insert({
    ...{ id: newId(), number_id: numberId, other_side: to, direction: 'out', body },
    ...{ state: why === null ? 'waiting' : 'failed', why, by_person: null },
  });
  if (why === null) await tell(trx);
}

/** Keeps a text that came in and what it cost, once; gives why not, when the number takes none. */
export async function keepText(
  trx: Knex.Transaction,
  text: ArrivedText,
  at = new Date(),
): Promise<string | null> {
  const [number] = await textNumbers(trx, { e164: text.to });
  if (number === undefined) return 'This number takes no texts.';
  const id = newId();
  const kept = await trx('text_message')
    .insert({
      id,
      number_id: number.id,
      other_side: text.from,
      direction: 'in',
      body: text.body,
      state: 'received',
      ref: text.ref,
      at,
    })
    .onConflict('ref')
    .ignore()
    .returning('id');
  if (kept.length === 0) return null;
  await tell(trx);
  await charge(trx, id, number.id, text.from, text.price);
  if (asksToStop(text.body)) await addOptOuts(trx, [text.from], { how: 'text' }, true);
  return null;
}

/** Texts to be handed to a provider now; each is then left alone for a while. */
export async function takeWaiting(database: Knex): Promise<WaitingText[]> {
  const { rows } = await database.raw<{ rows: WaitingText[] }>(
    `update text_message t set told_at = now() from number n
     where n.id = t.number_id and t.state = 'waiting'
       and (t.told_at is null or t.told_at < now() - make_interval(secs => ?))
     returning t.id, coalesce(n.e164, n.given_up_e164) as "from", t.other_side as "to", t.body`,
    [askAgainSeconds],
  );
  return rows;
}

export async function textIsSent(trx: Knex.Transaction, id: string, price: string): Promise<void> {
  const [row] = await trx('text_message')
    .where({ id, state: 'waiting' })
    .update({ state: 'sent' })
    .returning<{ number_id: string; other_side: string }[]>(['number_id', 'other_side']);
  if (row === undefined) return;
  await tell(trx);
  await charge(trx, id, row.number_id, row.other_side, price);
}

export async function textIsLost(database: Knex, id: string, why: string): Promise<void> {
  await database('text_message')
    .where({ id, state: 'waiting' })
    .update({ state: 'failed', why: why.slice(0, 200) });
  await tell(database);
}

async function charge(trx: Knex, id: string, numberId: string, other: string, price: string): Promise<void> {
  const amount = readAmount(price);
  if (amount === null || amount <= 0n) return;
  await addEntries(trx, [{ kind: 'text', amount: -amount, what: other, numberId, once: `text ${id}` }]);
}

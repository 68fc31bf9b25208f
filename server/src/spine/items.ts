import type { Knex } from 'knex';
import { v7 as uuid } from 'uuid';
import { Problem } from '../http/problems.ts';
import { itemsChannel } from '../live/channels.ts';

/** Who changes something, and what belongs together: one batch is one action of theirs. */
export interface Author {
  personId: string | null;
  batch: string;
}

export type ItemKind =
  | 'team'
  | 'person'
  | 'phone'
  | 'queue'
  | 'number'
  | 'voicemail'
  | 'trunk'
  | 'campaign'
  | 'source'
  | 'connection'
  | 'skill'
  | 'rule'
  | 'outside'
  | 'room'
  | 'ringGroup'
  | 'fax'
  | 'hours'
  | 'prompt'
  | 'plan'
  | 'blocked'
  | 'code'
  | 'region'
  | 'bot'
  | 'scriptKey';

export interface Reference {
  to: string;
  /** How it is used, for example 'member' or 'when full'. */
  how: string;
}

export function authorOf(personId: string | null): Author {
  return { personId, batch: uuid() };
}

export function newId(): string {
  return uuid();
}

type Transaction = Knex.Transaction;

export interface NewItem {
  id: string;
  kind: ItemKind;
  name: string;
  after: unknown;
  references: Reference[];
}

/** Gives new things their identities, their references and the first lines of their histories. */
export async function createItems(trx: Transaction, items: NewItem[], author: Author): Promise<void> {
  await insertAll(
    trx,
    'item',
    items.map(({ id, kind, name }) => ({ id, kind, name })),
  );
  await insertAll(
    trx,
    'item_reference',
    items.flatMap(({ id, references }) => referenceRows(id, references)),
  );
  await insertAll(
    trx,
    'change',
    items.map(({ id, after }) => changeRow({ item_id: id, what: 'created', before: null, after }, author)),
  );
  await tellChanged(
    trx,
    items.map(({ id }) => id),
  );
}

export function createItem(trx: Transaction, item: NewItem, author: Author): Promise<void> {
  return createItems(trx, [item], author);
}

const rowsAtOnce = 1_000;

/** As many rows as there are, in statements of bounded size. */
export async function insertAll(trx: Transaction, table: string, rows: object[]): Promise<void> {
  for (let i = 0; i < rows.length; i += rowsAtOnce) await trx(table).insert(rows.slice(i, i + rowsAtOnce));
}

/** Guards a write with the version the writer saw; throws `changedMeanwhile` with `current` when it is older. */
export async function changeItem(
  trx: Transaction,
  item: {
    id: string;
    name: string;
    before: unknown;
    after: unknown;
    references: Reference[];
    version: number;
    current: unknown;
    takesBack?: number;
  },
  author: Author,
): Promise<void> {
  const changed = await trx('item')
    .where({ id: item.id, version: item.version })
    .update({ name: item.name, version: item.version + 1 });
  if (changed === 0) {
    const last = await lastChange(trx, item.id);
    throw new Problem(
      'changedMeanwhile',
      `${last.by} changed this while you were at it. Both versions are shown; nothing is lost.`,
      [],
      { current: item.current, by: last.by, at: last.at },
    );
  }
  await tellChanged(trx, [item.id]);
  await setReferences(trx, item.id, item.references);
  await recordChange(
    trx,
    {
      item_id: item.id,
      what: 'changed',
      before: item.before,
      after: item.after,
      takes_back: item.takesBack ?? null,
    },
    author,
  );
}

/** Retired things keep their name in history; nothing that others refer to is deleted. */
export async function retireItem(
  trx: Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const changed = await trx('item')
    .where({ id, version })
    .whereNull('retired_at')
    .update({ retired_at: trx.fn.now(), version: version + 1 });
  if (changed === 0)
    throw new Problem('changedMeanwhile', 'This was changed or deactivated meanwhile. Look again.');
  await tellChanged(trx, [id]);
  await recordChange(trx, { item_id: id, what: 'retired', before: null, after: null }, author);
}

export async function reactivateItem(
  trx: Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const changed = await trx('item')
    .where({ id, version })
    .whereNotNull('retired_at')
    .update({ retired_at: null, version: version + 1 });
  if (changed === 0) throw new Problem('changedMeanwhile', 'This was changed meanwhile. Look again.');
  await tellChanged(trx, [id]);
  await recordChange(trx, { item_id: id, what: 'reactivated', before: null, after: null }, author);
}

/** What an item uses, from now on. */
export async function setReferences(trx: Transaction, from: string, references: Reference[]): Promise<void> {
  await trx('item_reference').where({ from_item: from }).delete();
  await insertAll(trx, 'item_reference', referenceRows(from, references));
}

function referenceRows(from: string, references: Reference[]): object[] {
  const rows = new Map(
    references.map(({ to, how }) => [`${to} ${how}`, { from_item: from, to_item: to, how }]),
  );
  return [...rows.values()];
}

/** One line of an item's history. */
export async function recordChange(trx: Knex, change: ChangeLine, author: Author): Promise<void> {
  await trx('change').insert(changeRow(change, author));
}

interface ChangeLine {
  item_id: string;
  what: string;
  before: unknown;
  after: unknown;
  takes_back?: number | null;
}

function changeRow(change: ChangeLine, author: Author) {
  return {
    ...change,
    before: JSON.stringify(change.before),
    after: JSON.stringify(change.after),
    by_person: author.personId,
    batch: author.batch,
  };
}

async function lastChange(trx: Transaction, id: string): Promise<{ by: string; at: string }> {
  const row = await trx('change as c')
    .leftJoin('item as i', 'i.id', 'c.by_person')
    .where('c.item_id', id)
    .orderBy('c.id', 'desc')
    .first<{ name: string | null; at: Date } | undefined>('i.name', 'c.at');
  return { by: row?.name ?? 'Somebody else', at: (row?.at ?? new Date(0)).toISOString() };
}

export interface UsedBy {
  id: string;
  kind: ItemKind;
  name: string;
  how: string;
}

/** Everything in use that refers to this item. */
export async function usedBy(database: Knex, id: string): Promise<UsedBy[]> {
  return database('item_reference as r')
    .join('item as i', 'i.id', 'r.from_item')
    .where('r.to_item', id)
    .whereNull('i.retired_at')
    .orderBy([{ column: 'i.kind' }, { column: 'i.name' }, { column: 'r.how' }])
    .select<UsedBy[]>('i.id', 'i.kind', 'i.name', 'r.how');
}

const kindWords: Partial<Record<ItemKind, string>> = {
  queue: 'queue',
  trunk: 'trunk',
  number: 'number',
  source: 'call source',
  hours: 'set of opening hours',
  plan: 'answering plan',
  voicemail: 'voicemail box',
  blocked: 'blocked caller',
  code: 'service code',
};

/** What a field names must exist and be in use; null names nothing. */
export async function checkInUse(trx: Knex, id: string | null, kind: ItemKind, path: string): Promise<void> {
  if (id === null) return;
  const row = await trx('item')
    .where({ id, kind })
    .first<{ name: string; retired_at: Date | null } | undefined>('name', 'retired_at');
  const word = kindWords[kind] ?? kind;
  if (row === undefined) throw Problem.field(path, `That ${word} does not exist. Choose another.`);
  if (row.retired_at !== null)
    throw Problem.field(path, `${row.name} is deactivated. Choose another ${word}.`);
}

/** No two things in use of one kind have the same name. */
export async function refuseSameName(
  trx: Knex,
  kind: ItemKind,
  name: string,
  id: string | null,
): Promise<void> {
  const other = await trx('item')
    .where({ kind })
    .whereRaw('lower(name) = lower(?)', [name])
    .whereNull('retired_at')
    .modify((query) => {
      if (id !== null) void query.whereNot({ id });
    })
    .first('id');
  if (other !== undefined)
    throw Problem.field('/name', `There is already a ${kindWords[kind] ?? kind} called ${name}.`, 'taken');
}

/** Refuses when something still leads here, and says what. Being a member, or watched by a key, is no route: that just ends. */
export async function refuseWhenUsed(trx: Transaction, id: string, name: string): Promise<void> {
  const users = (await usedBy(trx, id)).filter(
    (user) => !['member', 'team', 'looked after', 'line key', 'listener', 'belongs to'].includes(user.how),
  );
  if (users.length === 0) return;
  const named = users
    .slice(0, 3)
    .map((user) => user.name)
    .join(', ');
  const more = users.length > 3 ? ` and ${users.length - 3} more` : '';
  throw new Problem(
    'inUse',
    `${named}${more} still ${users.length === 1 ? 'uses' : 'use'} ${name}. Send them elsewhere first.`,
    [],
    {
      usedBy: users,
    },
  );
}

/** The exchange compiles the set-up anew after this transaction commits. */
export async function announceChange(trx: Knex): Promise<void> {
  await trx('exchange_inbox').insert({ body: JSON.stringify({ kind: 'recompile' }) });
  await trx.raw(`select pg_notify('night_bell_inbox', '')`);
}

/** Pages that show these items read them again, once this transaction has committed; a phone is shown with its person. */
export async function tellChanged(trx: Knex, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  await trx.raw(
    `select pg_notify(?, coalesce('person ' || p.person_id, i.kind || ' ' || i.id))
     from item i left join phone p on p.id = i.id where i.id = any(?::uuid[])`,
    [itemsChannel, [...ids]],
  );
}

/** The same for what is no item, or changes without a new version. */
export async function tellPages(trx: Knex, kind: ItemKind | 'job', id: string): Promise<void> {
  await trx.raw('select pg_notify(?, ?)', [itemsChannel, `${kind} ${id}`]);
}

import type { Knex } from 'knex';
import { searchedWords } from '@night-bell/core/lists/searched';
import type { ItemKind } from '../../spine/items.ts';
import { inOrderOf, pageOfIds, prefixQuery } from '../../spine/listing.ts';

/** What a thing is called, and what tells it from others of that name. */
export interface DirectoryEntry {
  id: string;
  kind: ItemKind;
  name: string;
  extension: string | null;
  /** A number's digits, a person's team; null for others. */
  second: string | null;
  retired: boolean;
}

export interface DirectoryQuery {
  ids?: string[];
  digits?: string[];
  search?: string;
  kinds: ItemKind[];
  limit: number;
}

/** Everything that is told apart by a name. */
export const namedKinds = [
  'queue',
  'ringGroup',
  'plan',
  'number',
  'person',
  'team',
  'campaign',
  'trunk',
  'voicemail',
  'outside',
  'room',
  'fax',
  'hours',
  'prompt',
  'rule',
  'source',
  'skill',
  'connection',
  'blocked',
  'code',
  'region',
  'bot',
] as const satisfies ItemKind[];

/**
 * Entries by id or by the digits one dials, retired ones too; else those in use that a search finds, kind by kind in the
 * order asked for, each kind by name.
 */
export async function lookUp(database: Knex, asked: DirectoryQuery): Promise<DirectoryEntry[]> {
  const { ids, digits, search = '', kinds, limit } = asked;
  if (ids !== undefined) return entries(database, ids);
  if (digits !== undefined) {
    const { rows } = await database.raw<{ rows: { id: string }[] }>(
      `select item_id as id from extension where digits = any(?)
       union all select id from number where e164 = any(?)`,
      [digits, digits],
    );
    return entries(
      database,
      rows.map(({ id }) => id),
    );
  }
  const many = kinds.filter((kind) => manyOfThem.has(kind));
  const others = kinds.filter((kind) => !manyOfThem.has(kind));
  const [found, ...pages] = await Promise.all([
    ofShortLists(database, others, search, limit),
    ...many.map((kind) => pageOfIds(database, { kind, search }, { by: 'name', down: false }, { limit })),
  ]);
  const byKind = new Map<ItemKind, string[]>(many.map((kind, index) => [kind, pages[index]!.ids]));
  for (const { id, kind } of found) byKind.set(kind, [...(byKind.get(kind) ?? []), id]);
  return entries(database, kinds.flatMap((kind) => byKind.get(kind) ?? []).slice(0, limit));
}

/** Kinds of which there may be a hundred thousand: each is asked by its own index. */
const manyOfThem: ReadonlySet<ItemKind> = new Set(['person', 'number', 'voicemail']);

async function ofShortLists(
  database: Knex,
  kinds: readonly ItemKind[],
  search: string,
  limit: number,
): Promise<{ id: string; kind: ItemKind }[]> {
  const words = searchedWords(search);
  return database('listed')
    .whereRaw('not retired and kind = any(?)', [[...kinds]])
    .modify((query) => {
      if (words.length > 0)
        void query.whereRaw('words @@ ?::tsquery', [
          kinds.map((kind) => `(${prefixQuery(kind, words)})`).join(' | '),
        ]);
    })
    .orderByRaw('array_position(?::text[], kind), name, id', [[...kinds]])
    .limit(limit)
    .select<{ id: string; kind: ItemKind }[]>('id', 'kind');
}

async function entries(database: Knex, ids: readonly string[]): Promise<DirectoryEntry[]> {
  const rows = await database('item as i')
    .leftJoin('extension as e', 'e.item_id', 'i.id')
    .leftJoin('number as n', 'n.id', 'i.id')
    .leftJoin('person as p', 'p.id', 'i.id')
    .leftJoin('item as t', 't.id', 'p.team_id')
    .leftJoin('listed as l', 'l.id', 'i.id')
    .whereRaw('i.id = any(?::uuid[])', [[...ids]])
    .select<DirectoryEntry[]>(
      'i.id',
      'i.kind',
      'i.name',
      'e.digits as extension',
      database.raw('coalesce(n.e164, n.given_up_e164, t.name) as second'),
      database.raw('coalesce(l.retired, i.retired_at is not null) as retired'),
    );
  return inOrderOf(ids, rows);
}

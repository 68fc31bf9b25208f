import type { Knex } from 'knex';
import { searchedWords } from '@night-bell/core/lists/searched';
import { idIn, movedOn, readCursor, writeCursor } from './cursor.ts';
import type { ItemKind } from './items.ts';

/** Part of a list whose parts stand one behind another: those with these ids, those of a team, or all others. */
export type Group = {
  key: string;
  /** Its own order, where that is not the list's. */
  by?: Order['by'];
} & ({ ids: readonly string[] } | { allBut: readonly string[] } | { teamId: string | null });

/** What narrows a list: ids, SQL that gives ids, or what every item of a list has. */
export interface Narrowing {
  kind: ItemKind;
  /** Beginnings of words, in any order. */
  search?: string | undefined;
  withRetired?: boolean | undefined;
  teamId?: string | undefined;
  ids?: readonly string[] | undefined;
  /** SQL with its values; each must give the id. */
  within?: readonly { sql: string; values: readonly unknown[] }[] | undefined;
}

export interface Order {
  /** By what the list is kept sorted by; or by any SQL about `l.id` that is never null, for lists of some thousands. */
  by: 'name' | 'key' | { sql: string };
  down: boolean;
  /** In this order, each sorted within itself. */
  groups?: readonly Group[] | undefined;
}

export interface Stretch {
  limit: number;
  /** Where the stretch before ended, as it said. */
  after?: string | undefined;
}

/** Ids of one stretch of a list, and where the next begins; null at the end. */
export interface IdPage {
  ids: string[];
  next: string | null;
}

/** One of a list, with what it is sorted by. */
interface Listed {
  id: string;
  value: string;
}

interface Place {
  group: string;
  value: string;
  id: string;
}

/** Rows in the order of their ids; what is gone meanwhile is left out. */
export function inOrderOf<Row extends { id: string }>(ids: readonly string[], rows: readonly Row[]): Row[] {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** One stretch of a list by keyset: what it costs does not depend on how far down it is. */
export async function pageOfIds(
  database: Knex,
  narrowing: Narrowing,
  order: Order,
  { limit, after }: Stretch,
): Promise<IdPage> {
  const groups: readonly (Group | null)[] = order.groups ?? [null];
  let place: Place | null = null;
  if (after !== undefined) {
    const [group, value, id] = readCursor(after, 3) as [string, string, string];
    place = { group, value, id: idIn(id) };
  }
  const first = place === null ? 0 : groups.findIndex((group) => (group?.key ?? '') === place!.group);
  if (first < 0) throw movedOn();
  const found: Place[] = [];
  for (const group of groups.slice(first)) {
    const rows = await stretchOf(database, narrowing, order, group, place, limit + 1 - found.length);
    found.push(...rows.map(({ id, value }) => ({ id, value: String(value), group: group?.key ?? '' })));
    place = null;
    if (found.length > limit) break;
  }
  const shown = found.slice(0, limit);
  return {
    ids: shown.map(({ id }) => id),
    next: found.length > limit ? placeOf(shown.at(-1)!) : null,
  };
}

const placeOf = ({ group, value, id }: Place) => writeCursor([group, value, id]);

/** How many there are in all. */
export async function countListed(database: Knex, narrowing: Narrowing): Promise<number> {
  const [row] = (await narrowed(database, narrowing).count('* as count')) as unknown as { count: number }[];
  return Number(row!.count);
}

async function stretchOf(
  database: Knex,
  narrowing: Narrowing,
  { by: usual, down }: Order,
  part: Group | null,
  place: Place | null,
  limit: number,
): Promise<Listed[]> {
  const by = part?.by ?? usual;
  const ofGroup = narrowed(database, narrowing)
    .modify((query) => {
      if (part === null) return;
      if ('ids' in part) void query.whereRaw('l.id = any(?::uuid[])', [[...part.ids]]);
      else if ('allBut' in part) void query.whereRaw('l.id <> all(?::uuid[])', [[...part.allBut]]);
      else if (part.teamId === null) void query.whereNull('l.team_id');
      else void query.where('l.team_id', part.teamId);
    })
    .select('l.id', typeof by === 'string' ? `l.${by} as value` : database.raw(`(${by.sql}) as value`));
  const way = down ? 'desc' : 'asc';
  /** From the place on, in order. */
  const stretch = (source: Knex.QueryBuilder, value: string, id: string) => {
    if (place !== null)
      void source.whereRaw(`(${value}, ${id}) ${down ? '<' : '>'} (?, ?)`, [place.value, place.id]);
    return source
      .orderBy([
        { column: value, order: way },
        { column: id, order: way },
      ])
      .limit(limit);
  };
  const ofHits = (from: Knex.QueryBuilder) => stretch(from.from('hits').select('id', 'value'), 'value', 'id');
  // What a narrowing leaves is sorted; the list's own index would be walked past everybody for it.
  const isFew =
    typeof by !== 'string' ||
    (narrowing.within ?? []).length > 0 ||
    narrowing.ids !== undefined ||
    (part !== null && 'ids' in part);
  if (isFew) return ofHits(database.withMaterialized('hits', ofGroup)) as unknown as Promise<Listed[]>;
  // So is what a word leaves. One that very many have is the other way round: walking meets them soon.
  if (searchedWords(narrowing.search ?? '').length > 0) {
    const few = await sortedIfFew(database, ofGroup, ofHits(database.queryBuilder()), way);
    if (few !== null) return few;
  }
  return stretch(ofGroup, `l.${by}`, 'l.id') as unknown as Promise<Listed[]>;
}

const mostSorted = 1_500;

/**
 * The stretch of the hits, or null when there are more than are sorted in a moment. Never planned by guess: the hits
 * themselves are counted, up to there.
 */
async function sortedIfFew(
  database: Knex,
  hits: Knex.QueryBuilder,
  stretch: Knex.QueryBuilder,
  way: 'asc' | 'desc',
): Promise<Listed[] | null> {
  const rows = await database
    .withMaterialized('hits', hits.clone().limit(mostSorted + 1))
    .from(database.raw('(select count(*)::int as count from hits) as c'))
    .joinRaw('left join lateral ? as h on true', [stretch as never])
    .orderBy([
      { column: 'h.value', order: way },
      { column: 'h.id', order: way },
    ])
    .select<(Listed & { count: number })[]>('c.count', 'h.id', 'h.value');
  if (rows[0]!.count > mostSorted) return null;
  return rows.filter(({ id }) => id !== null);
}

function narrowed(database: Knex, narrowing: Narrowing): Knex.QueryBuilder {
  const { kind, search = '', withRetired, teamId, ids, within = [] } = narrowing;
  const words = searchedWords(search);
  return database('listed as l')
    .where('l.kind', kind)
    .modify((query) => {
      if (withRetired !== true) void query.whereRaw('not l.retired');
      if (words.length > 0) void query.whereRaw('l.words @@ ?::tsquery', [prefixQuery(kind, words)]);
      if (teamId !== undefined) void query.where('l.team_id', teamId);
      if (ids !== undefined) void query.whereRaw('l.id = any(?::uuid[])', [[...ids]]);
      for (const { sql, values } of within) void query.whereRaw(`l.id = any(array(${sql}))`, values as never);
    });
}

/** Every word must begin one of the item's; the words are letters and digits only. */
export function prefixQuery(kind: ItemKind, words: readonly string[]): string {
  return words.map((word) => `'${kind}:${word}':*`).join(' & ');
}

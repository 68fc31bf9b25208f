import Joi from 'joi';
import type { Knex } from 'knex';
import { inParts, type SavedColumn, savedList } from './saved-list.ts';

type Item = Record<string, unknown> & { id: string; name: string; retired?: boolean };

interface PlainQuery {
  withRetired: boolean;
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
/** What is of no use outside: secrets are in no view, these are for forms. */
const notSaved = new Set(['id', 'version', 'document', 'live', 'peaks', 'retired']);

/**
 * A list short enough to be read at once, of items of any kind: a column for each of their fields, with names instead of
 * ids. JSON Lines has the items whole.
 */
export function plainList(area: string, name: string, list: (database: Knex) => Promise<readonly object[]>) {
  const read = async (database: Knex, { withRetired }: PlainQuery, ids: readonly string[] | null) => {
    const wanted = ids === null ? null : new Set(ids);
    return ((await list(database)) as Item[]).filter(
      // Those that are named are meant, deactivated or not.
      (item) => wanted?.has(item.id) ?? (withRetired || item.retired !== true),
    );
  };
  return savedList<PlainQuery, Item>({
    area,
    name,
    query: Joi.object<PlainQuery>({ withRetired: Joi.boolean().default(false) }),
    columns: async (database, query) => columnsOf(database, await read(database, query, null)),
    rows: async function* (database, query, ids) {
      yield* inParts(await read(database, query, ids));
    },
    count: async (database, query) => (await read(database, query, null)).length,
  });
}

async function columnsOf(database: Knex, items: readonly Item[]): Promise<SavedColumn<Item>[]> {
  const keys = [...new Set(items.flatMap((item) => Object.keys(item)))].filter((key) => !notSaved.has(key));
  const named = new Map(
    (
      await database('item')
        .whereRaw('id = any(?::uuid[])', [
          [...new Set(items.flatMap((item) => keys.flatMap((key) => idsIn(item[key]))))],
        ])
        .select<{ id: string; name: string }[]>('id', 'name')
    ).map(({ id, name }) => [id, name]),
  );
  const told = (value: unknown): string | number | null => {
    if (value === null || value === undefined) return null;
    if (typeof value === 'number') return value;
    if (typeof value === 'string') return named.get(value) ?? value;
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    if (Array.isArray(value)) return value.map(told).join(', ');
    const { name } = value as { name?: unknown };
    return typeof name === 'string' ? name : JSON.stringify(value);
  };
  // A name beside its id says the same.
  const shown = keys.filter((key) => !(key.endsWith('Id') && keys.includes(`${key.slice(0, -2)}Name`)));
  return shown.map((key) => ({ title: titleOf(key), of: (item) => told(item[key]) }));
}

function idsIn(value: unknown): string[] {
  if (typeof value === 'string') return uuid.test(value) ? [value] : [];
  return Array.isArray(value) ? value.flatMap(idsIn) : [];
}

/** 'maxWaitSeconds' as 'Max wait seconds'. */
function titleOf(key: string): string {
  const words = key
    .replace(/(Name|Ids?)$/, '')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

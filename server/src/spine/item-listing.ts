import Joi from 'joi';
import type { Knex } from 'knex';
import { type Page, type PageQuery, pageQuery, someIds, stretchLimit, stretchOf } from '../http/paging.ts';
import type { ItemKind } from './items.ts';
import { countListed, type Group, inOrderOf, type Narrowing, type Order, pageOfIds } from './listing.ts';

/** What a list of items can be narrowed to and sorted by, beside what all lists have. SQL gives ids, or a value of `l.id`. */
export interface ItemListing {
  parts?: Readonly<Record<string, string>>;
  orders?: Readonly<Record<string, string>>;
  /** The list's own order, where that is not by name. */
  usual?: string;
  /** The part that comes first where no order was asked for, and the order in which it does. */
  first?: { part: string; by: string };
}

export interface ItemsQuery extends Omit<PageQuery, 'limit'> {
  limit?: number;
  search?: string;
  ids?: string[];
  only?: string;
  withRetired: boolean;
  sort?: string;
  down: boolean;
}

/** What the list of a kind may be asked; without a limit it answers with everything that fits. */
export function itemsQuery(listing: ItemListing | undefined): Joi.ObjectSchema<ItemsQuery> {
  const parts = Object.keys(listing?.parts ?? {});
  return Joi.object<ItemsQuery>({
    ...pageQuery,
    limit: stretchLimit,
    search: Joi.string().allow('').max(80),
    ids: someIds,
    ...(parts.length === 0 ? {} : { only: Joi.string().valid(...parts) }),
    withRetired: Joi.boolean().default(true),
    sort: Joi.string().valid('name', 'extension', ...Object.keys(listing?.orders ?? {})),
    down: Joi.boolean().default(false),
  });
}

/** Items of a kind that fit: a stretch of them where a limit was asked for, by one reading of the ids and one of the rows. */
export async function pageOfItems<View extends { id: string }>(
  database: Knex,
  kind: ItemKind,
  listing: ItemListing | undefined,
  list: (database: Knex, ids?: readonly string[]) => Promise<View[]>,
  asked: ItemsQuery,
): Promise<Page<View>> {
  const { search, ids, only, withRetired, sort, limit } = asked;
  const narrowing: Narrowing = {
    ...{ kind, search, ids, withRetired },
    within: only === undefined ? [] : [{ sql: listing!.parts![only]!, values: [] }],
  };
  const total = asked.total ? await countListed(database, narrowing) : null;
  const isWhole =
    [search, ids, only, sort, limit, asked.after].every((each) => each === undefined) &&
    withRetired &&
    !asked.down;
  if (isWhole) return { rows: await list(database), next: null, total };
  const order = await orderOf(database, listing, asked);
  const page = await pageOfIds(
    database,
    narrowing,
    order,
    stretchOf({ ...asked, limit: limit ?? everything }),
  );
  return { rows: inOrderOf(page.ids, await list(database, page.ids)), next: page.next, total };
}

const everything = 1_000_000;

async function orderOf(
  database: Knex,
  listing: ItemListing | undefined,
  { sort, down }: ItemsQuery,
): Promise<Order> {
  const own = sort === undefined ? listing?.usual : listing?.orders?.[sort];
  if (own !== undefined) return { by: { sql: own }, down };
  const first = sort === undefined ? listing?.first : undefined;
  if (first === undefined) return { by: sort === 'extension' ? 'key' : 'name', down };
  const { rows } = await database.raw<{ rows: { id: string }[] }>(listing!.parts![first.part]!);
  const ids = rows.map(({ id }) => id);
  const groups: Group[] = [
    { key: 'first', ids, by: { sql: listing!.orders![first.by]! } },
    { key: 'others', allBut: ids },
  ];
  return { by: 'name', down, groups: down ? groups.reverse() : groups };
}

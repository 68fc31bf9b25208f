import Joi from 'joi';
import type { Knex } from 'knex';
import { type Page, type PageQuery, someIds, stretchOf } from '../../http/paging.ts';
import { countListed, inOrderOf, type Narrowing, type Order, pageOfIds } from '../../spine/listing.ts';
import { callsToday, listNumbers, type NumberView } from './store.ts';

const sources = {
  leadsTo: `select coalesce(d.name, n.destination_kind, '') from number n
    left join item d on d.id = n.destination_item where n.id = l.id`,
  source: `select coalesce(s.name, '') from number n left join item s on s.id = n.source_id where n.id = l.id`,
  texts: `select coalesce(x.name, '') from number n left join item x on x.id = n.texts_item where n.id = l.id`,
  monthly: 'select coalesce(n.monthly, 0) from number n where n.id = l.id',
  today: callsToday('l.id'),
} as const;

export const numberOrders = [
  'open',
  'number',
  'label',
  ...(Object.keys(sources) as (keyof typeof sources)[]),
] as const;

/** Kinds of numbers one looks for. */
const parts = {
  unrouted: 'n.destination_kind is null',
  routed: 'n.destination_kind is not null',
  reported: `n.reports <> '[]'::jsonb`,
  rented: 'n.rented_at is not null',
} as const;
export const numberParts = Object.keys(parts) as (keyof typeof parts)[];

export interface NumbersQuery extends PageQuery {
  search?: string;
  only?: keyof typeof parts;
  ids?: string[];
  sort: (typeof numberOrders)[number];
  down: boolean;
}

/** What narrows and sorts a list of numbers. */
export const numbersNarrowing = {
  search: Joi.string().allow('').max(80),
  only: Joi.string().valid(...numberParts),
  ids: someIds,
  sort: Joi.string()
    .valid(...numberOrders)
    .default('open'),
  down: Joi.boolean().default(false),
};

/** One stretch of the numbers that fit; in the usual order those that lead nowhere come first. */
export async function pageOfNumbers(database: Knex, asked: NumbersQuery): Promise<Page<NumberView>> {
  const narrowing = narrowingOf(asked);
  const page = await pageOfIds(database, narrowing, await orderOf(database, asked), stretchOf(asked));
  return {
    rows: inOrderOf(page.ids, await listNumbers(database, page.ids)),
    next: page.next,
    total: asked.total ? await countListed(database, narrowing) : null,
  };
}

export function narrowingOf({ search, only, ids }: NumbersQuery): Narrowing {
  const within =
    only === undefined ? [] : [{ sql: `select n.id from number n where ${parts[only]}`, values: [] }];
  return { kind: 'number', search, ids, within };
}

const mostOpen = 2_000;

async function orderOf(database: Knex, { sort, down }: NumbersQuery): Promise<Order> {
  if (sort === 'number' || sort === 'label') return { by: sort === 'number' ? 'key' : 'name', down };
  if (sort !== 'open') return { by: { sql: sources[sort] }, down };
  const open = await database('number')
    .whereNull('destination_kind')
    .whereNotNull('e164')
    .limit(mostOpen + 1)
    .pluck<string[]>('id');
  // So many of them are no exception that would be overlooked.
  if (open.length > mostOpen) return { by: 'key', down };
  const groups = [
    { key: 'open', ids: open },
    { key: 'routed', allBut: open },
  ];
  return { by: 'key', down, groups: down ? groups.reverse() : groups };
}

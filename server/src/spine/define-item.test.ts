import { readFileSync } from 'node:fs';
import type { Knex } from 'knex';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { type DraftOf, itemContract, type ViewOf } from '@night-bell/core/contracts/item';
import { name, nullable, usually, whole } from '@night-bell/core/contracts/parts';
import type { Database } from '../database/connection.ts';
import { itemRoutes } from '../http/item-routes.ts';
import type { Route } from '../http/route.ts';
import { freshDatabase } from '../server.testing.ts';
import { defineItem } from './define-item.ts';
import type { ItemKind } from './items.ts';

/** How little a plain area needs is tried with one that does not exist: buoys, with a depth and an extension. */
// The area begins.
const buoys = itemContract(
  { area: 'Buoys', path: '/api/buoys', one: 'a buoy', many: 'buoys' },
  { name, metres: usually(whole(1, 200), 5), every: usually(nullable(whole(1, 60)), null) },
  { uses: whole(0, 1_000_000) },
);
type Draft = DraftOf<typeof buoys>;
type View = ViewOf<typeof buoys>;

async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    create table buoy (id uuid primary key references item (id), metres integer not null, seconds integer);
  `);
}

const buoyItem = defineItem<typeof buoys.path, Draft, View>({
  ...{ kind: 'buoy' as ItemKind, contract: buoys, word: 'buoy', table: 'buoy' },
  columns: { metres: 'metres', every: 'seconds' },
  more: { uses: '0' },
  references: () => [],
});

const buoyRoutes = (database: Knex): Route[] => itemRoutes({ database } as never, buoyItem);
// The area ends.

let database: Database;
let drop: () => Promise<void>;
let routes: Route[];
let personId: string;
beforeAll(async () => {
  ({ database, drop } = await freshDatabase());
  await up(database);
  routes = buoyRoutes(database);
  personId = '01890000-0000-7000-8000-000000000001';
  await database('item').insert({ id: personId, kind: 'person', name: 'Ada' });
  await database('person').insert({ id: personId, login: 'ada', role: 'administrator' });
});
afterAll(() => drop());

/** As HTTP would, after roles and shapes are checked. */
async function ask<T>(method: string, path: string, more: object = {}): Promise<T> {
  const declared = routes.find((route) => route.method === method && route.path === path)!;
  const body = declared.body.validate((more as { body?: unknown }).body ?? {});
  if (body.error !== undefined) throw body.error;
  const query = declared.query.validate((more as { query?: unknown }).query ?? {}).value as unknown;
  const caller = { personId, name: 'Ada', role: 'administrator', sessionHash: '' };
  return (await declared.handle({ caller, ...more, query, body: body.value as unknown } as never)) as T;
}

test('six routes come with it: made with what is usual, read, changed, turned off and on again', async () => {
  const made = await ask<View>('POST', '/api/buoys', { body: { name: 'Green can' } });
  expect(made).toMatchObject({ name: 'Green can', metres: 5, every: null, uses: 0, retired: false });
  const params = { id: made.id };
  const body = { name: 'Red nun', metres: 12, every: 4 };
  const changed = await ask<View>('PUT', '/api/buoys/:id', { params, version: made.version, body });
  expect(await ask('GET', '/api/buoys/:id', { params })).toEqual({ item: changed, usedBy: [] });
  const off = await ask<View>('POST', '/api/buoys/:id/retire', { params, version: changed.version });
  const on = await ask<View>('POST', '/api/buoys/:id/reactivate', { params, version: off.version });
  expect([off.retired, on]).toEqual([true, { ...changed, version: on.version }]);
  expect(await ask<View[]>('GET', '/api/buoys')).toEqual([on]);
});

test('its bounds are those of the contract, and its history is kept', async () => {
  await expect(ask('POST', '/api/buoys', { body: { name: 'Deep', metres: 201 } })).rejects.toThrow(
    'A whole number from 1 to 200.',
  );
  const [{ count } = { count: 0 }] = await database('change')
    .join('item', 'item.id', 'change.item_id')
    .where('item.kind', 'buoy')
    .select<{ count: number }[]>(database.raw('count(*)::int as count'));
  expect(count).toBe(4);
});

test('contract, table, server and page of a plain area are at most 150 lines', () => {
  const between = (file: string) => {
    const text = readFileSync(new URL(file, import.meta.url), 'utf8').split('\n');
    const at = (words: string) => text.findIndex((line) => line.trim() === words);
    return at('// The area ends.') - at('// The area begins.') - 1;
  };
  const lines = between('define-item.test.ts') + between('../../../web/src/kit/ItemPage.test.ts');
  expect(lines).toBeGreaterThan(40);
  expect(lines).toBeLessThanOrEqual(150);
});

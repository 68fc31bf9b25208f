import type { Knex } from 'knex';
import { faxBoxItem } from '../areas/fax-boxes/store.ts';
import { outsideItem } from '../areas/outside/store.ts';
import { roomItem } from '../areas/rooms/store.ts';

/** Outside numbers, conference rooms and fax boxes as one list, as their page shows them. */
export async function listPlaces(database: Knex): Promise<object[]> {
  const kinds = [
    { kind: 'Outside number', items: await outsideItem.list(database) },
    { kind: 'Conference room', items: await roomItem.list(database) },
    { kind: 'Fax box', items: await faxBoxItem.list(database) },
  ];
  return kinds.flatMap(({ kind, items }) => items.map((item) => ({ kind, ...item })));
}

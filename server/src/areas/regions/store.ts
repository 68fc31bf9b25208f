import type { Knex } from 'knex';
import { type RegionDraft, regions, type RegionView } from '@night-bell/core/contracts/regions';
import type { RegionTable } from '@night-bell/core/model/configuration';
import { destinationFrom, destinationReference } from '../../spine/destinations.ts';
import { defineItem, usesOf } from '../../spine/define-item.ts';
import { announceChange, type Author, recordChange, setReferences, tellPages } from '../../spine/items.ts';
import { destinationsOf } from './rows.queries.ts';

export const regionItem = defineItem<typeof regions.path, RegionDraft, RegionView>({
  kind: 'region',
  contract: regions,
  word: 'region table',
  table: 'region_table',
  columns: {},
  more: {
    rows: '(select count(*)::int from region_row r where r.table_id = t.id)',
    uses: usesOf,
  },
  references: () => [],
  // What a table refers to stands in its rows: a change of its name leaves that as it is.
  changed: (trx, _draft, { id }) => referTo(trx, id),
});

async function referTo(trx: Knex.Transaction, id: string): Promise<void> {
  const destinations = await destinationsOf(trx, id);
  await setReferences(
    trx,
    id,
    destinations.flatMap((destination) => destinationReference(destination, 'region')),
  );
}

/** Rows of a table were changed: its references, history, pages and the exchange follow. */
export async function rowsChanged(
  trx: Knex.Transaction,
  id: string,
  counts: { added: number; changed: number; takenOut: number },
  author: Author,
): Promise<void> {
  await referTo(trx, id);
  await recordChange(trx, { item_id: id, what: 'rowsSet', before: null, after: counts }, author);
  await tellPages(trx, 'region', id);
  await announceChange(trx);
}

/** As the exchange reads them. */
export async function compiledRegions(database: Knex): Promise<RegionTable[]> {
  const { rows } = await database.raw<{
    rows: { id: string; name: string; kind: string | null; item: string | null; prefixes: string | null }[];
  }>(
    `select i.id, i.name, r.destination_kind as kind, r.destination_item as item,
       string_agg(r.prefix, ' ' order by r.prefix) as prefixes
     from item i left join region_row r on r.table_id = i.id
     where i.kind = 'region' and i.retired_at is null
     group by i.id, i.name, r.destination_kind, r.destination_item
     order by i.id, r.destination_kind, r.destination_item`,
  );
  const tables = new Map<string, { id: string; name: string; ways: RegionTable['ways'][number][] }>();
  for (const { id, name, kind, item, prefixes } of rows) {
    const table = tables.get(id) ?? { id, name, ways: [] };
    tables.set(id, table);
    const destination = destinationFrom(kind, item);
    if (destination !== null && prefixes !== null) table.ways.push({ destination, prefixes });
  }
  return [...tables.values()];
}

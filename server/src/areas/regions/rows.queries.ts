import type { Knex } from 'knex';
import type { RegionRow } from '@night-bell/core/contracts/regions';
import type { Destination } from '@night-bell/core/model/destination';
import type { Page, PageQuery } from '../../http/paging.ts';
import { readCursor, stretch } from '../../spine/cursor.ts';
import { destinationColumns, destinationFrom } from '../../spine/destinations.ts';

export interface NewRow {
  prefix: string;
  place: string | null;
  to: Destination;
}

const endName = 'nobody can take the call';

/** One stretch of a table's rows by prefix; `search` narrows by digits, place or destination. */
export async function pageOfRows(
  database: Knex,
  tableId: string,
  { search = '', limit, after, total }: PageQuery & { search?: string },
): Promise<Page<RegionRow>> {
  const narrowed = () =>
    database('region_row as r')
      .leftJoin('item as i', 'i.id', 'r.destination_item')
      .where('r.table_id', tableId)
      .modify((query) => {
        const digits = search.replace(/[^\d]/g, '');
        const part = `%${search.trim().replace(/[\\%_]/g, '\\$&')}%`;
        if (/^[+\d\s]+$/.test(search) && digits !== '') void query.whereLike('r.prefix', `%${digits}%`);
        else if (search.trim() !== '')
          void query.where((either) => either.whereILike('r.place', part).orWhereILike('i.name', part));
      });
  const rows = (await narrowed()
    .modify((query) => {
      if (after !== undefined) void query.where('r.prefix', '>', readCursor(after, 1)[0]!);
    })
    .orderBy('r.prefix')
    .limit(limit + 1)
    .select('r.prefix', 'r.place', 'r.destination_kind as kind', 'r.destination_item as item', 'i.name')) as {
    prefix: string;
    place: string | null;
    kind: string;
    item: string | null;
    name: string | null;
  }[];
  const page = stretch(rows, limit, ({ prefix }) => [prefix]);
  const [count] = total ? ((await narrowed().count('* as count')) as { count: number }[]) : [];
  return {
    rows: page.rows.map(({ prefix, place, kind, item, name }) => ({
      ...{ prefix, place, to: destinationFrom(kind, item)!, toName: name ?? endName },
    })),
    next: page.next,
    total: count === undefined ? null : Number(count.count),
  };
}

/** Where the rows of a table lead, each once. */
export async function destinationsOf(database: Knex, tableId: string): Promise<Destination[]> {
  const rows = (await database('region_row')
    .where({ table_id: tableId })
    .distinct('destination_kind as kind', 'destination_item as item')) as {
    kind: string;
    item: string | null;
  }[];
  return rows.flatMap(({ kind, item }) => destinationFrom(kind, item) ?? []);
}

const rowsAtOnce = 5_000;

/** Puts rows in; one that is there already leads elsewhere from now on. Gives how many are new, and how many changed. */
export async function putRows(
  trx: Knex.Transaction,
  tableId: string,
  rows: readonly NewRow[],
): Promise<{ added: number; changed: number }> {
  let [added, changed] = [0, 0];
  for (let from = 0; from < rows.length; from += rowsAtOnce) {
    const some = rows
      .slice(from, from + rowsAtOnce)
      .map((row) => ({ ...row, ...destinationColumns(row.to) }));
    const { rows: written } = await trx.raw<{ rows: { fresh: boolean }[] }>(
      `insert into region_row as r (table_id, prefix, place, destination_kind, destination_item)
       select ?, n.prefix, n.place, n.kind, n.item
       from unnest(?::text[], ?::text[], ?::text[], ?::uuid[]) as n (prefix, place, kind, item)
       on conflict (table_id, prefix) do update
         set place = excluded.place, destination_kind = excluded.destination_kind,
           destination_item = excluded.destination_item
         where (r.place, r.destination_kind, r.destination_item)
           is distinct from (excluded.place, excluded.destination_kind, excluded.destination_item)
       returning xmax = 0 as fresh`,
      [
        tableId,
        ...[some.map(({ prefix }) => prefix), some.map(({ place }) => place)],
        ...[some.map(({ kind }) => kind), some.map(({ item }) => item)],
      ] as unknown as string[],
    );
    for (const { fresh } of written)
      if (fresh) added++;
      else changed++;
  }
  return { added, changed };
}

/** What these rows are now, by prefix: the name of where they lead. */
export async function namesNow(
  database: Knex,
  tableId: string,
  prefixes: readonly string[],
): Promise<Map<string, string>> {
  const rows = (await database('region_row as r')
    .leftJoin('item as i', 'i.id', 'r.destination_item')
    .where('r.table_id', tableId)
    .whereRaw('r.prefix = any(?::text[])', [[...prefixes]])
    .select('r.prefix', 'i.name')) as { prefix: string; name: string | null }[];
  return new Map(rows.map(({ prefix, name }) => [prefix, name ?? endName]));
}

export async function takeRows(
  trx: Knex.Transaction,
  tableId: string,
  prefixes: readonly string[],
): Promise<number> {
  return trx('region_row')
    .where({ table_id: tableId })
    .whereRaw('prefix = any(?::text[])', [[...prefixes]])
    .delete();
}

/** Every row of a table: prefix and the name of where it leads. */
export async function allRows(
  database: Knex,
  tableId: string,
): Promise<{ prefix: string; kind: string; item: string | null; name: string }[]> {
  return (await database('region_row as r')
    .leftJoin('item as i', 'i.id', 'r.destination_item')
    .where('r.table_id', tableId)
    .orderBy('r.prefix')
    .select(
      ...['r.prefix', 'r.destination_kind as kind', 'r.destination_item as item'],
      database.raw('coalesce(i.name, ?) as name', [endName]),
    )) as { prefix: string; kind: string; item: string | null; name: string }[];
}

/** Numbers that called in these days, and how often; those withheld are one. */
export async function callersOf(database: Knex, days: number): Promise<{ caller: string; calls: number }[]> {
  return (await database('call')
    .where('direction', 'inbound')
    .whereRaw('arrived_at >= now() - make_interval(days => ?)', [days])
    .groupBy('caller')
    .select('caller', database.raw('count(*)::int as calls'))) as { caller: string; calls: number }[];
}

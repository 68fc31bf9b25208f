import Joi from 'joi';
import type { Knex } from 'knex';
import { searchedWords } from '@night-bell/core/lists/searched';
import type { Page, PageQuery } from '../../http/paging.ts';
import { idIn, readCursor, stretch } from '../../spine/cursor.ts';
import { inOrderOf } from '../../spine/listing.ts';

export interface RecordRow {
  id: string;
  name: string;
  owner: string | null;
  numbers: string[];
  fields: Record<string, string>;
}

export interface RecordsQuery extends PageQuery {
  /** Beginnings of words of the name, or of a number as it is dialled, without its country, or its last digits. */
  search?: string;
}

export const recordsNarrowing = { search: Joi.string().allow('').max(80) };

/** One stretch of the records that fit, by name. */
export async function pageOfRecords(database: Knex, asked: RecordsQuery): Promise<Page<RecordRow>> {
  const search = searchedWords(asked.search ?? '').length > 0 ? asked.search! : null;
  const fit = () =>
    database('record as r')
      .whereRaw(
        `r.connection_id = any(array(select i.id from item i where i.kind = 'connection' and i.retired_at is null))`,
      )
      .modify((query) => search !== null && narrow(database, query, search));
  // The hits of a search are few: they are sorted, and the index by name is not walked for them.
  const source: Knex.QueryBuilder =
    search === null ? fit() : database.withMaterialized('r', fit().select('r.id', 'r.name')).from('r');
  const places = (await source
    .modify((query) => {
      if (asked.after === undefined) return;
      const [name, id] = readCursor(asked.after, 2) as [string, string];
      void query.whereRaw('(r.name collate listing, r.id) > (? collate listing, ?)', [name, idIn(id)]);
    })
    .orderByRaw('r.name collate listing, r.id')
    .limit(asked.limit + 1)
    .select('r.id', 'r.name')) as { id: string; name: string }[];
  const page = stretch(places, asked.limit, ({ name, id }) => [name, id]);
  const [count] = asked.total ? ((await fit().count('* as count')) as { count: number }[]) : [];
  return {
    rows: await recordRows(
      database,
      page.rows.map(({ id }) => id),
    ),
    next: page.next,
    total: count === undefined ? null : Number(count.count),
  };
}

async function recordRows(database: Knex, ids: readonly string[]): Promise<RecordRow[]> {
  const rows = await database('record as r')
    .leftJoin('person as p', 'p.login', 'r.owner_login')
    .leftJoin('item as pi', 'pi.id', 'p.id')
    .whereRaw('r.id = any(?::uuid[])', [[...ids]])
    .select<Omit<RecordRow, 'numbers'>[]>('r.id', 'r.name', 'pi.name as owner', 'r.fields');
  const numbers = await database('record_number')
    .whereRaw('record_id = any(?::uuid[])', [[...ids]])
    .orderBy('e164')
    .select<{ id: string; e164: string }[]>('record_id as id', 'e164');
  const byRecord = new Map<string, string[]>();
  for (const { id, e164 } of numbers) byRecord.set(id, [...(byRecord.get(id) ?? []), e164]);
  return inOrderOf(ids, rows).map((row) => ({ ...row, numbers: byRecord.get(row.id) ?? [] }));
}

const fewestDigits = 3;

function narrow(database: Knex, query: Knex.QueryBuilder, search: string): void {
  const words = searchedWords(search);
  if (words.length === 0) return;
  const digits = search.replace(/\D/g, '');
  void query.where((either) => {
    void either.whereRaw('r.words @@ ?::tsquery', [words.map((word) => `'${word}':*`).join(' & ')]);
    if (digits.length >= fewestDigits)
      void either.orWhereIn(
        'r.id',
        database('record_number as n')
          .select('n.record_id')
          .whereRaw(
            `n.e164 like ? or right(n.e164, 10) like ? or right(n.e164, 7) like ? or right(n.e164, 4) = ?`,
            [`+${digits}%`, ...[`${digits}%`, `${digits}%`, digits]],
          ),
      );
  });
}

import Joi from 'joi';
import type { Knex } from 'knex';
import { searchedWords } from '@night-bell/core/lists/searched';
import type { Page, PageQuery } from '../../http/paging.ts';
import { idIn, readCursor, stretch } from '../../spine/cursor.ts';

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
  const query = database('record as r')
    .join('item as c', 'c.id', 'r.connection_id')
    .whereNull('c.retired_at')
    .modify((narrowing) => narrow(database, narrowing, asked.search ?? ''));
  const source: Knex.QueryBuilder = database
    .withMaterialized('fit', query.clone().select('r.*'))
    .from((asked.search ?? '') === '' ? database.raw('record as r') : database.raw('fit as r'));
  const rows = (await source
    .leftJoin('person as p', 'p.login', 'r.owner_login')
    .leftJoin('item as pi', 'pi.id', 'p.id')
    .modify((page) => {
      void page.whereExists(
        database('item as c')
          .whereRaw('c.id = r.connection_id')
          .whereNull('c.retired_at')
          .select(database.raw('1')),
      );
      if (asked.after === undefined) return;
      const [name, id] = readCursor(asked.after, 2) as [string, string];
      void page.whereRaw('(r.name collate listing, r.id) > (? collate listing, ?)', [name, idIn(id)]);
    })
    .orderByRaw('r.name collate listing, r.id')
    .limit(asked.limit + 1)
    .select(
      'r.id',
      'r.name',
      'pi.name as owner',
      'r.fields',
      database.raw(
        `coalesce((select array_agg(n.e164 order by n.e164) from record_number n where n.record_id = r.id), '{}') as numbers`,
      ),
    )) as RecordRow[];
  const [count] = asked.total ? ((await query.count('* as count')) as { count: number }[]) : [];
  return {
    ...stretch(rows, asked.limit, ({ name, id }) => [name, id]),
    total: count === undefined ? null : Number(count.count),
  };
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

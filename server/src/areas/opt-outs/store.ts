import Joi from 'joi';
import type { Knex } from 'knex';
import type { Page, PageQuery } from '../../http/paging.ts';
import { readCursor, stretch, timeIn } from '../../spine/cursor.ts';
import { readNumber } from '@night-bell/core/numbers/e164';

export type OptOutHow = 'key' | 'desk' | 'import' | 'list' | 'text';

export interface OptOutRow {
  e164: string;
  how: OptOutHow;
  by: string | null;
  callId: string | null;
  campaignName: string | null;
  at: string;
}

export interface OptOutsQuery extends PageQuery {
  /** Digits the number holds. */
  search?: string;
}

export const optOutsNarrowing = { search: Joi.string().allow('').max(40) };

/** One stretch of the list, newest first. */
export async function pageOfOptOuts(database: Knex, asked: OptOutsQuery): Promise<Page<OptOutRow>> {
  const digits = (asked.search ?? '').replace(/\D/g, '');
  const narrowed = () =>
    database('opt_out as o').modify((query) => {
      if (digits !== '') void query.whereLike('o.e164', `%${digits}%`);
    });
  const rows = (await narrowed()
    .leftJoin('item as p', 'p.id', 'o.by_person')
    .leftJoin('item as c', 'c.id', 'o.campaign_id')
    .modify((query) => {
      if (asked.after === undefined) return;
      const [at, e164] = readCursor(asked.after, 2) as [string, string];
      void query.whereRaw('(o.at < ? or (o.at = ? and o.e164 > ?))', [...[timeIn(at), timeIn(at)], e164]);
    })
    .orderBy([{ column: 'o.at', order: 'desc' }, { column: 'o.e164' }])
    .limit(asked.limit + 1)
    .select(
      'o.e164',
      'o.how',
      'p.name as by',
      'o.call_id as callId',
      'c.name as campaignName',
      'o.at',
      // To the microsecond: a list brought at once has one instant for all.
      database.raw(`to_char(o.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as "exactly"`),
    )) as (OptOutRow & { exactly: string })[];
  const [count] = asked.total ? ((await narrowed().count('* as count')) as { count: number }[]) : [];
  const page = stretch(rows, asked.limit, ({ exactly, e164 }) => [exactly, e164]);
  return {
    rows: page.rows.map(({ exactly: _, ...row }) => row),
    next: page.next,
    total: count === undefined ? null : Number(count.count),
  };
}

/**
 * Puts numbers on the list, once each. Contacts that are due are opted out in the same transaction; `tell` has the
 * exchange take them out of its hands too. Gives how many were not on the list before.
 */
export async function addOptOuts(
  trx: Knex,
  numbers: string[],
  entry: {
    how: OptOutHow;
    byPerson?: string | null;
    callId?: string | null;
    campaignId?: string | null;
    at?: Date;
  },
  tell: boolean,
): Promise<number> {
  if (numbers.length === 0) return 0;
  const added = await trx('opt_out')
    .insert(
      [...new Set(numbers)].map((e164) => ({
        e164,
        how: entry.how,
        by_person: entry.byPerson ?? null,
        call_id: entry.callId ?? null,
        campaign_id: entry.campaignId ?? null,
        ...(entry.at === undefined ? {} : { at: entry.at }),
      })),
    )
    .onConflict('e164')
    .ignore()
    .returning('e164');
  await trx('contact')
    .whereIn('e164', numbers)
    .where({ state: 'due' })
    .update({ state: 'optedOut', due_at: null });
  if (tell) {
    await trx('exchange_inbox').insert(
      [...new Set(numbers)].map((e164) => ({ body: JSON.stringify({ kind: 'optedOut', e164 }) })),
    );
    await trx.raw(`select pg_notify('night_bell_inbox', '')`);
  }
  return added.length;
}

/** Numbers out of pasted text: one a line, or separated by commas, semicolons or tabs. */
export function readNumbers(text: string): { numbers: string[]; faults: { line: number; detail: string }[] } {
  const numbers: string[] = [];
  const faults: { line: number; detail: string }[] = [];
  text.split(/\r?\n/).forEach((line, index) => {
    const cells = line.split(/[,;\t]/).map((cell) => cell.trim().replace(/^"|"$/g, ''));
    const found = cells.map((cell) => readNumber(cell)).find((reading) => reading.ok);
    if (found?.ok === true) numbers.push(found.e164);
    else if (cells.some((cell) => /\d/.test(cell)))
      faults.push({
        line: index + 1,
        detail: `"${line.trim().slice(0, 40)}" holds no complete phone number.`,
      });
  });
  return { numbers, faults };
}

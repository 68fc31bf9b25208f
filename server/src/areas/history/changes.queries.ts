import Joi from 'joi';
import type { Knex } from 'knex';
import { formatNumber } from '@night-bell/core/numbers/format';
import type { Page, PageQuery } from '../../http/paging.ts';
import { readCursor, stretch } from '../../spine/cursor.ts';
import type { ItemKind } from '../../spine/items.ts';

export interface FieldChange {
  field: string;
  before: unknown;
  after: unknown;
}

/** One line of the trail: who did what to which item, and when. */
export interface ChangeView {
  id: number;
  what: string;
  by: string | null;
  byId: string | null;
  at: string;
  itemId: string;
  itemKind: ItemKind;
  itemName: string;
  fields: FieldChange[];
  /** Which messages of a voicemail box it was about. */
  about: string | null;
  takesBack: number | null;
  canBeTakenBack: boolean;
}

export interface ChangesQuery extends PageQuery {
  itemId?: string;
  personId?: string;
  kind?: ItemKind;
  from?: Date;
  to?: Date;
}

const aTime = Joi.date().iso().messages({ 'date.format': 'Times are written like 2026-11-24T14:20:00Z.' });

/** What narrows the trail of changes. */
export const changesNarrowing = {
  itemId: Joi.string().guid(),
  personId: Joi.string().guid(),
  kind: Joi.string().max(20),
  from: aTime,
  to: aTime,
};

interface Row {
  id: number;
  what: string;
  by: string | null;
  byId: string | null;
  at: Date;
  itemId: string;
  itemKind: ItemKind;
  itemName: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
  takesBack: number | null;
}

/** One stretch of the trail over all items, newest first. */
export async function pageOfChanges(database: Knex, asked: ChangesQuery): Promise<Page<ChangeView>> {
  const narrowed = () =>
    database('change as c')
      .join('item as t', 't.id', 'c.item_id')
      .modify((query) => {
        if (asked.itemId !== undefined) void query.where('c.item_id', asked.itemId);
        if (asked.personId !== undefined) void query.where('c.by_person', asked.personId);
        if (asked.kind !== undefined) void query.where('t.kind', asked.kind);
        if (asked.from !== undefined) void query.where('c.at', '>=', asked.from);
        if (asked.to !== undefined) void query.where('c.at', '<', asked.to);
      });
  const rows = (await narrowed()
    .leftJoin('item as i', 'i.id', 'c.by_person')
    .modify((query) => {
      if (asked.after !== undefined) void query.where('c.id', '<', Number(readCursor(asked.after, 1)[0]));
    })
    .orderBy('c.id', 'desc')
    .limit(asked.limit + 1)
    .select(
      ...['c.id', 'c.what', 'c.before', 'c.after', 'c.at', 'c.takes_back as takesBack', 'i.name as by'],
      ...['c.by_person as byId', 't.id as itemId', 't.kind as itemKind', 't.name as itemName'],
    )) as Row[];
  const [count] = asked.total ? ((await narrowed().count('* as count')) as { count: number }[]) : [];
  const page = stretch(rows, asked.limit, ({ id }) => [id]);
  return {
    rows: page.rows.map(({ before, after, at, ...row }) => ({
      ...row,
      at: at.toISOString(),
      fields: differences(before, after),
      about: aboutMessages(after),
      // Starting and pausing is undone by pausing and starting.
      canBeTakenBack: row.what === 'changed' && !('status' in (after ?? {})),
    })),
    next: page.next,
    total: count === undefined ? null : Number(count.count),
  };
}

/** 'the message of +1 360 555 0117, to Freight', '3 messages'; null for what is about no messages. */
function aboutMessages(after: Record<string, unknown> | null): string | null {
  const { from, count, to } = (after ?? {}) as { from?: unknown; count?: unknown; to?: unknown };
  if (!Array.isArray(from) || typeof count !== 'number') return null;
  const who = String(from[0] ?? '');
  const what =
    count === 1
      ? `the message of ${who === '' ? 'a withheld number' : formatNumber(who)}`
      : `${count} messages`;
  return typeof to === 'string' ? `${what}, to ${to}` : what;
}

export function differences(
  before: Record<string, unknown> | null,
  after: Record<string, unknown> | null,
): FieldChange[] {
  const fields = new Set([...Object.keys(before ?? {}), ...Object.keys(after ?? {})]);
  return [...fields]
    .filter((field) => JSON.stringify(before?.[field]) !== JSON.stringify(after?.[field]))
    .map((field) => ({ field, before: before?.[field] ?? null, after: after?.[field] ?? null }));
}

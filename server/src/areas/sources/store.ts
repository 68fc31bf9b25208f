import type { Knex } from 'knex';
import { amountOf, centsOf } from '@night-bell/core/model/money';
import type { SourceDraft } from '@night-bell/core/model/sources.schema';
import { Problem } from '../../http/problems.ts';
import {
  type Author,
  changeItem,
  createItem,
  newId,
  reactivateItem,
  refuseSameName,
  refuseWhenUsed,
  retireItem,
} from '../../spine/items.ts';

export interface SourceView extends SourceDraft {
  id: string;
  version: number;
  retired: boolean;
  /** Numbers that carry it. */
  numbers: { id: string; e164: string; label: string }[];
}

interface SourceRow {
  id: string;
  version: number;
  retired: boolean;
  name: string;
  kind: SourceDraft['kind'];
  cost_cents: number;
  cost_per: SourceDraft['costPer'];
  from_day: string;
}

export async function listSources(database: Knex, id: string | null = null): Promise<SourceView[]> {
  const rows = await database('call_source as s')
    .join('item as i', 'i.id', 's.id')
    .modify((query) => {
      if (id !== null) void query.where('s.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 's.id' }])
    .select<SourceRow[]>(
      's.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      's.kind',
      's.cost_cents',
      's.cost_per',
      database.raw(`to_char(s.from_day, 'YYYY-MM-DD') as from_day`),
    );
  const numbers = await database('number as n')
    .join('item as i', 'i.id', 'n.id')
    .whereNotNull('n.source_id')
    .whereNull('i.retired_at')
    .orderBy('n.e164')
    .select<{ source_id: string; id: string; e164: string; label: string }[]>(
      'n.source_id',
      'n.id',
      'n.e164',
      'i.name as label',
    );
  return rows.map((row) => ({
    id: row.id,
    version: row.version,
    retired: row.retired,
    name: row.name,
    kind: row.kind,
    cost: amountOf(row.cost_cents),
    costPer: row.cost_per,
    fromDay: row.from_day,
    numbers: numbers
      .filter((number) => number.source_id === row.id)
      .map(({ source_id: _source, ...number }) => number),
  }));
}

export async function getSource(database: Knex, id: string): Promise<SourceView> {
  const [source] = await listSources(database, id);
  if (source === undefined) throw new Problem('notFound', 'There is no such call source.');
  return source;
}

export function sourceSnapshot({ name, kind, cost, costPer, fromDay }: SourceDraft): SourceDraft {
  return { name, kind, cost, costPer, fromDay };
}

function columnsOf({ kind, cost, costPer, fromDay }: SourceDraft) {
  return { kind, cost_cents: centsOf(cost), cost_per: costPer, from_day: fromDay };
}

export async function createSource(
  trx: Knex.Transaction,
  draft: SourceDraft,
  author: Author,
): Promise<string> {
  await refuseSameName(trx, 'source', draft.name, null);
  const id = newId();
  const after = sourceSnapshot(draft);
  await createItem(trx, { id, kind: 'source', name: draft.name, after, references: [] }, author);
  await trx('call_source').insert({ id, ...columnsOf(draft) });
  return id;
}

export async function changeSource(
  trx: Knex.Transaction,
  id: string,
  version: number,
  draft: SourceDraft,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getSource(trx, id);
  await refuseSameName(trx, 'source', draft.name, id);
  await changeItem(
    trx,
    {
      id,
      name: draft.name,
      before: sourceSnapshot(current),
      after: sourceSnapshot(draft),
      references: [],
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  await trx('call_source').where({ id }).update(columnsOf(draft));
}

export async function retireSource(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const source = await getSource(trx, id);
  await refuseWhenUsed(trx, id, source.name);
  await retireItem(trx, id, version, author);
}

export async function reactivateSource(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const source = await getSource(trx, id);
  await refuseSameName(trx, 'source', source.name, id);
  await reactivateItem(trx, id, version, author);
}

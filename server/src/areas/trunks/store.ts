import type { Knex } from 'knex';
import type { TrunkDraft } from '@night-bell/core/model/trunks.schema';
import { Problem } from '../../http/problems.ts';
import {
  announceChange,
  type Author,
  changeItem,
  createItem,
  newId,
  reactivateItem,
  refuseSameName,
  refuseWhenUsed,
  retireItem,
} from '../../spine/items.ts';

export interface TrunkView extends TrunkDraft {
  id: string;
  version: number;
  retired: boolean;
}

export async function listTrunks(database: Knex, id: string | null = null): Promise<TrunkView[]> {
  return database('trunk as t')
    .join('item as i', 'i.id', 't.id')
    .modify((query) => {
      if (id !== null) void query.where('t.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 't.id' }])
    .select<TrunkView[]>(
      't.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      't.host',
      't.account',
      't.channels',
    );
}

export async function getTrunk(database: Knex, id: string): Promise<TrunkView> {
  const [trunk] = await listTrunks(database, id);
  if (trunk === undefined) throw new Problem('notFound', 'There is no such trunk.');
  return trunk;
}

export function trunkSnapshot({ name, host, account, channels }: TrunkDraft): TrunkDraft {
  return { name, host, account, channels };
}

export async function createTrunk(trx: Knex.Transaction, draft: TrunkDraft, author: Author): Promise<string> {
  await refuseSameName(trx, 'trunk', draft.name, null);
  const id = newId();
  const after = trunkSnapshot(draft);
  await createItem(trx, { id, kind: 'trunk', name: draft.name, after, references: [] }, author);
  const { name: _name, ...columns } = after;
  await trx('trunk').insert({ id, ...columns });
  await announceChange(trx);
  return id;
}

export async function changeTrunk(
  trx: Knex.Transaction,
  id: string,
  version: number,
  draft: TrunkDraft,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getTrunk(trx, id);
  await refuseSameName(trx, 'trunk', draft.name, id);
  const after = trunkSnapshot(draft);
  await changeItem(
    trx,
    {
      id,
      name: draft.name,
      before: trunkSnapshot(current),
      after,
      references: [],
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  const { name: _name, ...columns } = after;
  await trx('trunk').where({ id }).update(columns);
  await announceChange(trx);
}

export async function retireTrunk(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const trunk = await getTrunk(trx, id);
  await refuseWhenUsed(trx, id, trunk.name);
  const reached = await trx('phone as f')
    .join('item as p', 'p.id', 'f.person_id')
    .join('item as i', 'i.id', 'f.id')
    .where('f.trunk_id', id)
    .whereNull('i.retired_at')
    .whereNull('p.retired_at')
    .orderBy('p.name')
    .pluck<string[]>('p.name');
  if (reached.length > 0)
    throw new Problem(
      'inUse',
      `${reached.slice(0, 3).join(', ')}${reached.length > 3 ? ' and more' : ''} are reached over ${trunk.name}. Choose another trunk for them first.`,
    );
  await retireItem(trx, id, version, author);
  await announceChange(trx);
}

export async function reactivateTrunk(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  await getTrunk(trx, id);
  await reactivateItem(trx, id, version, author);
  await announceChange(trx);
}

import type { Knex } from 'knex';
import type { TrunkDraft } from '@night-bell/core/model/trunks.schema';
import { Problem } from '../../http/problems.ts';
import { itemStore } from '../../spine/item-store.ts';

export interface TrunkView extends TrunkDraft {
  id: string;
  version: number;
  retired: boolean;
}

export function listTrunks(database: Knex, id?: string): Promise<TrunkView[]> {
  return database('trunk as t')
    .join('item as i', 'i.id', 't.id')
    .modify((query) => {
      if (id !== undefined) void query.where('t.id', id);
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

export const trunkStore = itemStore<TrunkDraft, TrunkView>({
  kind: 'trunk',
  word: 'trunk',
  list: listTrunks,
  snapshot: ({ name, host, account, channels }) => ({ name, host, account, channels }),
  references: () => [],
  insert: async (trx, id, { host, account, channels }) =>
    void (await trx('trunk').insert({ id, host, account, channels })),
  update: async (trx, id, { host, account, channels }) =>
    void (await trx('trunk').where({ id }).update({ host, account, channels })),
  refuseRetiring: refuseWhileReachedOver,
});

async function refuseWhileReachedOver(trx: Knex.Transaction, { id, name }: TrunkView): Promise<void> {
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
      `${reached.slice(0, 3).join(', ')}${reached.length > 3 ? ' and more' : ''} are reached over ${name}. Choose another trunk for them first.`,
    );
}

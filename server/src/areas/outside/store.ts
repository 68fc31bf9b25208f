import type { Knex } from 'knex';
import type { OutsideDraft } from '@night-bell/core/model/outside.schema';
import { moveExtension } from '../../spine/extensions.ts';
import { itemStore } from '../../spine/item-store.ts';
import { checkInUse } from '../../spine/items.ts';
import { Problem } from '../../http/problems.ts';

export interface OutsideView extends OutsideDraft {
  id: string;
  version: number;
  retired: boolean;
}

export function listOutside(database: Knex, id?: string): Promise<OutsideView[]> {
  return database('outside_number as o')
    .join('item as i', 'i.id', 'o.id')
    .leftJoin('extension as e', 'e.item_id', 'o.id')
    .modify((query) => {
      if (id !== undefined) void query.where('o.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 'o.id' }])
    .select<OutsideView[]>(
      'o.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'e.digits as extension',
      'o.e164',
      'o.trunk_id as trunkId',
      'o.ring_seconds as ringSeconds',
    );
}

export const outsideStore = itemStore<OutsideDraft, OutsideView>({
  kind: 'outside',
  word: 'outside number',
  list: listOutside,
  snapshot: ({ name, extension, e164, trunkId, ringSeconds }) => ({
    ...{ name, extension, e164, trunkId, ringSeconds },
  }),
  references: ({ trunkId }) => (trunkId === null ? [] : [{ to: trunkId, how: 'dials over' }]),
  check: async (trx, draft) => {
    await checkInUse(trx, draft.trunkId, 'trunk', '/trunkId');
    // Out over a line and in again by our own number would go in circles, and cost twice.
    const own = await trx('number').where({ e164: draft.e164 }).first('id');
    if (own !== undefined)
      throw Problem.field('/e164', 'This is a number of our own. Send the call to it directly.');
  },
  insert: async (trx, id, draft) => {
    await trx('outside_number').insert({ id, ...columnsOf(draft) });
    await moveExtension(trx, id, draft.extension);
  },
  update: async (trx, id, draft) => {
    await trx('outside_number').where({ id }).update(columnsOf(draft));
    await moveExtension(trx, id, draft.extension);
  },
});

function columnsOf({ e164, trunkId, ringSeconds }: OutsideDraft) {
  return { e164, trunk_id: trunkId, ring_seconds: ringSeconds };
}

/** It seems to send calls back to us: readiness tells of it for a week. */
export async function noteForwardLoop(trx: Knex, id: string): Promise<void> {
  await trx('outside_number').where({ id }).update({ loop_seen_at: trx.fn.now() });
}

/** Numbers outside that sent calls back to us within a week, and have not been changed since. */
export function forwardLoops(database: Knex): Promise<{ id: string; name: string }[]> {
  return database('outside_number as o')
    .join('item as i', 'i.id', 'o.id')
    .whereNull('i.retired_at')
    .whereRaw(`o.loop_seen_at > now() - interval '7 days'`)
    .whereNotExists(
      database('change as c')
        .whereRaw('c.item_id = o.id and c.at > o.loop_seen_at')
        .where('c.what', 'changed')
        .select('c.id'),
    )
    .orderBy('i.name')
    .select('o.id', 'i.name');
}

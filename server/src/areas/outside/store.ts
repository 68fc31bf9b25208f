import type { Knex } from 'knex';
import { type OutsideDraft, outsideNumbers, type OutsideView } from '@night-bell/core/contracts/destinations';
import { Problem } from '../../http/problems.ts';
import { defineItem } from '../../spine/define-item.ts';
import { checkInUse } from '../../spine/items.ts';

export const outsideItem = defineItem<typeof outsideNumbers.path, OutsideDraft, OutsideView>({
  kind: 'outside',
  contract: outsideNumbers,
  word: 'outside number',
  table: 'outside_number',
  columns: { e164: 'e164', trunkId: 'trunk_id', ringSeconds: 'ring_seconds' },
  hasExtension: true,
  more: {},
  references: ({ trunkId }) => (trunkId === null ? [] : [{ to: trunkId, how: 'dials over' }]),
  check: async (trx, draft) => {
    await checkInUse(trx, draft.trunkId, 'trunk', '/trunkId');
    // Out over a line and in again by our own number would go in circles, and cost twice.
    const own = await trx('number').where({ e164: draft.e164 }).first('id');
    if (own !== undefined)
      throw Problem.field('/e164', 'This is a number of our own. Send the call to it directly.');
  },
});

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

import type { Knex } from 'knex';
import { Problem } from '../http/problems.ts';
import { announceChange, type Author, type ItemKind, recordChange, tellPages } from './items.ts';

/** An item's draft becomes what callers meet: guarded by the version that was seen, in the history, told to exchange and pages. */
export async function publishItem(
  trx: Knex.Transaction,
  { kind, id, version, after }: { kind: ItemKind; id: string; version: number; after: object },
  author: Author,
): Promise<void> {
  const changed = await trx('item')
    .where({ id, kind, version })
    .whereNull('retired_at')
    .update({ version: version + 1 });
  if (changed === 0)
    throw new Problem('changedMeanwhile', 'This was changed meanwhile. Look at it again, then publish.');
  await recordChange(trx, { item_id: id, what: 'published', before: null, after }, author);
  await tellPages(trx, kind, id);
  await announceChange(trx);
}

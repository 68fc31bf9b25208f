import type { Knex } from 'knex';
import { type Author, createItems, insertAll } from './items.ts';

/** Boxes of people and queues, made with them. */
export async function createVoicemailBoxes(
  trx: Knex.Transaction,
  boxes: { id: string; ownerId: string; name: string }[],
  author: Author,
): Promise<void> {
  // Owned, not used: the box goes with its owner and keeps nobody from being deactivated.
  const items = boxes.map(({ id, ownerId, name }) => ({
    id,
    kind: 'voicemail' as const,
    name,
    after: { ownerId },
    references: [],
  }));
  await createItems(trx, items, author);
  await insertAll(
    trx,
    'voicemail_box',
    boxes.map(({ id, ownerId }) => ({ id, owner_id: ownerId })),
  );
}

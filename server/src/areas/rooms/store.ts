import type { Knex } from 'knex';
import { type RoomDraft, rooms, type RoomView } from '@night-bell/core/contracts/destinations';
import { pinHash } from '@night-bell/core/plan/steps/room';
import { defineItem } from '../../spine/define-item.ts';

export const roomItem = defineItem<typeof rooms.path, RoomDraft, RoomView>({
  kind: 'room',
  contract: rooms,
  word: 'conference room',
  table: 'room',
  columns: { joinTone: 'join_tone' },
  hasExtension: true,
  more: { hasPin: 't.pin_hash is not null' },
  references: () => [],
});

/** What the exchange checks PINs by; views leave it out. */
export function roomPins(
  database: Knex,
): Promise<{ id: string; pinHash: string | null; pinLength: number }[]> {
  return database('room').select('id', 'pin_hash as pinHash', 'pin_length as pinLength');
}

export async function setPin(trx: Knex.Transaction, id: string, pin: string | null): Promise<void> {
  await trx('room')
    .where({ id })
    .update({ pin_hash: pin === null ? null : pinHash(id, pin), pin_length: pin?.length ?? 0 });
}

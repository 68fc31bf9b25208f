import type { Knex } from 'knex';
import { pinHash } from '@night-bell/core/plan/steps/room';
import type { RoomDraft } from '@night-bell/core/model/places.schema';
import { moveExtension } from '../../spine/extensions.ts';
import { itemStore } from '../../spine/item-store.ts';

export interface RoomView extends RoomDraft {
  id: string;
  version: number;
  retired: boolean;
  hasPin: boolean;
}

/** With what the exchange checks a PIN by; views leave that out. */
export function roomRows(
  database: Knex,
  id?: string,
): Promise<(RoomView & { pinHash: string | null; pinLength: number })[]> {
  return database('room as r')
    .join('item as i', 'i.id', 'r.id')
    .leftJoin('extension as e', 'e.item_id', 'r.id')
    .modify((query) => {
      if (id !== undefined) void query.where('r.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 'r.id' }])
    .select(
      'r.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'e.digits as extension',
      'r.join_tone as joinTone',
      database.raw('r.pin_hash is not null as "hasPin"'),
      'r.pin_hash as pinHash',
      'r.pin_length as pinLength',
    );
}

async function listRooms(database: Knex, id?: string): Promise<RoomView[]> {
  return (await roomRows(database, id)).map(({ pinHash: _hash, pinLength: _length, ...room }) => room);
}

export const roomStore = itemStore<RoomDraft, RoomView>({
  kind: 'room',
  word: 'conference room',
  list: listRooms,
  snapshot: ({ name, extension, joinTone }) => ({ name, extension, joinTone }),
  references: () => [],
  insert: async (trx, id, { extension, joinTone }) => {
    await trx('room').insert({ id, join_tone: joinTone });
    await moveExtension(trx, id, extension);
  },
  update: async (trx, id, { extension, joinTone }) => {
    await trx('room').where({ id }).update({ join_tone: joinTone });
    await moveExtension(trx, id, extension);
  },
});

export async function setPin(trx: Knex.Transaction, id: string, pin: string | null): Promise<void> {
  await trx('room')
    .where({ id })
    .update({ pin_hash: pin === null ? null : pinHash(id, pin), pin_length: pin?.length ?? 0 });
}

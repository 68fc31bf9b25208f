import type { Knex } from 'knex';
import { v7 as uuid } from 'uuid';
import type { FaxBoxDraft } from '@night-bell/core/model/places.schema';
import { moveExtension } from '../../spine/extensions.ts';
import { itemStore } from '../../spine/item-store.ts';

export interface FaxBoxView extends FaxBoxDraft {
  id: string;
  version: number;
  retired: boolean;
  faxes: number;
}

export function listFaxBoxes(database: Knex, id?: string): Promise<FaxBoxView[]> {
  return database('fax_box as b')
    .join('item as i', 'i.id', 'b.id')
    .leftJoin('extension as e', 'e.item_id', 'b.id')
    .modify((query) => {
      if (id !== undefined) void query.where('b.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 'b.id' }])
    .select<FaxBoxView[]>(
      'b.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'e.digits as extension',
      database.raw('(select count(*)::int from fax f where f.box_id = b.id) as faxes'),
    );
}

export const faxBoxStore = itemStore<FaxBoxDraft, FaxBoxView>({
  kind: 'fax',
  word: 'fax box',
  list: listFaxBoxes,
  snapshot: ({ name, extension }) => ({ name, extension }),
  references: () => [],
  insert: async (trx, id, { extension }) => {
    await trx('fax_box').insert({ id });
    await moveExtension(trx, id, extension);
  },
  update: (trx, id, { extension }) => moveExtension(trx, id, extension),
});

export interface Fax {
  id: string;
  sender: string;
  pages: number;
  at: string;
  callId: string;
}

/** Kept before the call is told to be over: a fax that was sent is never lost. A repeat keeps one. */
export async function keepFax(
  database: Knex,
  fax: { boxId: string; callId: string; sender: string; pages: number; file: Buffer },
): Promise<void> {
  await database('fax')
    .insert({
      id: uuid(),
      box_id: fax.boxId,
      call_id: fax.callId,
      sender: fax.sender,
      pages: fax.pages,
      file: fax.file,
    })
    .onConflict('call_id')
    .ignore();
}

export async function faxesOf(database: Knex, boxId: string): Promise<Fax[]> {
  const rows = await database('fax')
    .where({ box_id: boxId })
    .orderBy('at', 'desc')
    .limit(200)
    .select<(Omit<Fax, 'at'> & { at: Date })[]>('id', 'sender', 'pages', 'at', 'call_id as callId');
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

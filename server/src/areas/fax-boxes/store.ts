import { v7 as uuid } from 'uuid';
import type { Knex } from 'knex';
import { type FaxBoxDraft, faxBoxes, type FaxBoxView } from '@night-bell/core/contracts/destinations';
import { defineItem } from '../../spine/define-item.ts';

export const faxBoxItem = defineItem<typeof faxBoxes.path, FaxBoxDraft, FaxBoxView>({
  kind: 'fax',
  contract: faxBoxes,
  word: 'fax box',
  table: 'fax_box',
  columns: {},
  hasExtension: true,
  more: { faxes: '(select count(*)::int from fax f where f.box_id = t.id)' },
  references: () => [],
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

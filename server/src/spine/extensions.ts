import type { Knex } from 'knex';
import type { HidingPair } from '@night-bell/core/plan/check';
import { nextExtension } from '@night-bell/core/model/extension';
import { Problem } from '../http/problems.ts';

/** The name of whoever has this extension. */
export async function extensionOwner(database: Knex, digits: string): Promise<string> {
  const row = await database('extension as e')
    .join('item as i', 'i.id', 'e.item_id')
    .where('e.digits', digits)
    .first<{ name: string } | undefined>('i.name');
  return row?.name ?? 'taken';
}

/** Gives the extension to this item, or says whose it is and what is free. */
export async function moveExtension(
  trx: Knex.Transaction,
  itemId: string,
  digits: string | null,
): Promise<void> {
  await trx.raw('lock table extension in share row exclusive mode');
  if (digits !== null) {
    const other = await trx('extension').where({ digits }).whereNot({ item_id: itemId }).first('digits');
    if (other !== undefined) {
      const taken = new Set<string>(await trx('extension').pluck('digits'));
      const owner = await extensionOwner(trx, digits);
      throw Problem.field(
        '/extension',
        `${digits} is ${owner}. Next free: ${nextExtension(taken, [digits])}.`,
        'taken',
      );
    }
  }
  await trx('extension').where({ item_id: itemId }).delete();
  if (digits !== null) await trx('extension').insert({ digits, item_id: itemId });
}

/** Extensions of which the shorter begins the longer, at most twenty pairs: in their order the two are neighbours. */
export async function hidingExtensions(database: Knex): Promise<HidingPair[]> {
  const { rows } = await database.raw<{ rows: HidingPair[] }>(
    `select shorter, longer from
       (select digits as shorter, lead(digits) over (order by digits collate "C") as longer from extension) pair
     where longer like shorter || '%' order by shorter limit 20`,
  );
  return rows;
}

import type { Knex } from 'knex';
import { phoneDraft } from '@night-bell/core/model/phones.schema';
import type { PhoneDraft } from '@night-bell/core/model/phones.schema';
import { changePhone, getPhone, phonesByPerson, phoneSnapshot } from '../areas/phones/store.ts';
import { authorOf } from '../spine/items.ts';
import { itemCalled } from './by-name.ts';

/** A key of a phone, by the names of whose it is and whom it watches; empty cells mean light only, and always. */
export interface DemoLineKey {
  phoneOf: string;
  key: string;
  watches: string;
  label: string;
  alertsAfter: string;
  showsCaller: string;
}

export async function loadLineKeys(trx: Knex.Transaction, rows: DemoLineKey[]): Promise<void> {
  const personCalled = (name: string) => itemCalled(trx, ['person'], name);
  const seconds = (cell: string) => (cell === '' ? null : Number(cell));
  for (const owner of new Set(rows.map((row) => row.phoneOf))) {
    const personId = await personCalled(owner);
    const device = (await phonesByPerson(trx, [personId])).get(personId)?.find((each) => each.model !== null);
    if (device === undefined) throw new Error(`the demo gives ${owner} keys and no phone`);
    const phone = await getPhone(trx, device.id);
    const lineKeys: object[] = [];
    for (const row of rows.filter((each) => each.phoneOf === owner))
      lineKeys.push({
        position: Number(row.key),
        label: row.label,
        personId: await personCalled(row.watches),
        alertAfter: seconds(row.alertsAfter),
        callerSeconds: seconds(row.showsCaller),
      });
    const { error, value } = phoneDraft.validate({ ...phoneSnapshot(phone), lineKeys });
    if (error !== undefined) throw error;
    await changePhone(trx, phone.id, phone.version, value as PhoneDraft, authorOf(null));
  }
}

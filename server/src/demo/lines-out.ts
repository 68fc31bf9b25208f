import type { Knex } from 'knex';
import { faxBoxItem } from '../areas/fax-boxes/store.ts';
import { outsideItem } from '../areas/outside/store.ts';
import { roomItem, setPin } from '../areas/rooms/store.ts';
import { ruleItem } from '../areas/rules/store.ts';
import { makeCertificate } from '../areas/trunks/certificate.ts';
import { setTrunkSecret, trunkItem } from '../areas/trunks/store.ts';
import type { SecretBox } from '../security/secret-box.ts';
import { authorOf } from '../spine/items.ts';
import { checked, itemCalled } from './by-name.ts';

/** Trunks, dialling rules, and the places outside the queues, as the demo writes them. */
export interface DemoLinesOut {
  trunks: ({ certificate?: boolean; secret?: string; account: string } & Record<string, unknown>)[];
  rules: ({ trunks: string[]; teams?: string[] } & Record<string, unknown>)[];
  outside: object[];
  rooms: { pin?: string }[];
  faxBoxes: object[];
}

export async function loadTrunks(
  trx: Knex.Transaction,
  seal: SecretBox,
  trunks: DemoLinesOut['trunks'],
  company: string,
): Promise<void> {
  for (const { certificate, ...trunk } of trunks) {
    const request = checked(trunkItem.contract.draft.schema.validate(trunk));
    const id = await trunkItem.create(trx, request, authorOf(null));
    if (request.secret !== undefined) await setTrunkSecret(trx, seal, id, request.secret);
    if (certificate !== true) continue;
    const pair = await makeCertificate(request.account, company);
    await trx('trunk')
      .where({ id })
      .update({ certificate: pair.certificate, certificate_key_sealed: seal.seal(pair.key) });
  }
}

export async function loadRules(
  trx: Knex.Transaction,
  { rules, outside, rooms, faxBoxes }: DemoLinesOut,
): Promise<void> {
  const author = authorOf(null);
  for (const each of faxBoxes)
    await faxBoxItem.create(trx, checked(faxBoxItem.contract.draft.schema.validate(each)), author);
  for (const each of rooms) {
    const id = await roomItem.create(trx, checked(roomItem.contract.draft.schema.validate(each)), author);
    if (each.pin !== undefined) await setPin(trx, id, each.pin);
  }
  for (const each of outside)
    await outsideItem.create(trx, checked(outsideItem.contract.draft.schema.validate(each)), author);
  for (const { trunks, teams = [], ...rule } of rules) {
    const trunkIds: string[] = [];
    for (const name of trunks) trunkIds.push(await itemCalled(trx, ['trunk'], name));
    const teamIds: string[] = [];
    for (const name of teams) teamIds.push(await itemCalled(trx, ['team'], name));
    await ruleItem.create(
      trx,
      checked(ruleItem.contract.draft.schema.validate({ ...rule, trunkIds, teamIds })),
      author,
    );
  }
}

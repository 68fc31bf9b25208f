import type { Knex } from 'knex';
import { outsideDraft } from '@night-bell/core/model/outside.schema';
import { faxBoxDraft, roomRequest } from '@night-bell/core/model/places.schema';
import { ruleDraft } from '@night-bell/core/model/rules.schema';
import { trunkRequest } from '@night-bell/core/model/trunks.schema';
import { faxBoxStore } from '../areas/fax-boxes/store.ts';
import { outsideStore } from '../areas/outside/store.ts';
import { roomStore, setPin } from '../areas/rooms/store.ts';
import { ruleStore } from '../areas/rules/store.ts';
import { makeCertificate } from '../areas/trunks/certificate.ts';
import { setTrunkSecret, trunkStore } from '../areas/trunks/store.ts';
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
    const request = checked(trunkRequest.validate(trunk));
    const id = await trunkStore.create(trx, request, authorOf(null));
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
  for (const each of faxBoxes) await faxBoxStore.create(trx, checked(faxBoxDraft.validate(each)), author);
  for (const each of rooms) {
    const id = await roomStore.create(trx, checked(roomRequest.validate(each)), author);
    if (each.pin !== undefined) await setPin(trx, id, each.pin);
  }
  for (const each of outside) await outsideStore.create(trx, checked(outsideDraft.validate(each)), author);
  for (const { trunks, teams = [], ...rule } of rules) {
    const trunkIds: string[] = [];
    for (const name of trunks) trunkIds.push(await itemCalled(trx, ['trunk'], name));
    const teamIds: string[] = [];
    for (const name of teams) teamIds.push(await itemCalled(trx, ['team'], name));
    await ruleStore.create(trx, checked(ruleDraft.validate({ ...rule, trunkIds, teamIds })), author);
  }
}

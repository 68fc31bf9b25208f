import type { Knex } from 'knex';
import { chargeCalls } from '../areas/balance/store.ts';
import { contactDialled, contactEnded, returnContacts } from '../areas/campaigns/contacts.queries.ts';
import { keepEmergency } from '../areas/floor/emergencies.ts';
import { addOptOuts } from '../areas/opt-outs/store.ts';
import { queueWriteBack } from '../areas/records/outbox.ts';
import { writeCalls } from './log.queries.ts';
import type { Applied } from './replica.ts';

/**
 * What events mean for the database, in the transaction that writes the events: calls that are over and what goes back
 * to their records, contacts dialled, ended and given back, opt-outs by key. So a crash loses none of it, and no
 * contact is called twice for one attempt.
 */
export async function writeConsequences(trx: Knex, batch: Applied[]): Promise<void> {
  const ended = batch.flatMap((each) => each.ended);
  await writeCalls(trx, ended);
  await chargeCalls(
    trx,
    ended.flatMap(({ facts }) => facts.ways.map((way) => ({ callId: facts.callId, ...way }))),
  );
  for (const { handled } of batch) {
    for (const effect of handled.effects) {
      if (effect.kind === 'dial' && effect.contact !== null)
        await contactDialled(trx, effect.contact, effect.callId);
      else if (effect.kind === 'returnContacts') await returnContacts(trx, effect.contactIds);
      else if (effect.kind === 'optOut')
        await addOptOuts(trx, [effect.e164], { how: 'key', callId: effect.callId }, false);
      else if (effect.kind === 'emergency') await keepEmergency(trx, effect);
      else if (effect.kind === 'callEnded') {
        const { contactId, campaignId, attempt, result, endedAt: at } = effect.facts;
        if (contactId !== null && campaignId !== null)
          await contactEnded(trx, { contactId, campaignId, attempt, result, at });
      }
    }
  }
  const withRecord = ended.flatMap(({ facts }) =>
    facts.recordId === null || facts.direction === 'line'
      ? []
      : [{ callId: facts.callId, recordId: facts.recordId }],
  );
  await queueWriteBack(trx, withRecord);
}

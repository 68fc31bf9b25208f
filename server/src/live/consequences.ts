import type { Knex } from 'knex';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import { noteForwardLoop } from '../areas/outside/store.ts';
import { countHit } from '../areas/blocked/store.ts';
import { chargeCalls } from '../areas/balance/store.ts';
import { contactDialled, contactEnded, returnContacts } from '../areas/campaigns/contacts.queries.ts';
import { keepEmergency } from '../areas/floor/emergencies.ts';
import { callStorm } from '../areas/hours/store.ts';
import { addOptOuts } from '../areas/opt-outs/store.ts';
import { keepTalk } from '../areas/recordings/recordings.queries.ts';
import { keepAnswer } from '../areas/surveys/surveys.queries.ts';
import { writeTextOfCall } from '../areas/texts/store.ts';
import { doneWithMessage } from '../areas/voicemail/from-phone.ts';
import { keepMessage } from '../areas/voicemail/messages.ts';
import { keepCallNote, queueWriteBack } from '../areas/records/outbox.ts';
import { isDataFault } from './faults.ts';
import { type EndedCall, writeCalls, writeLostCall } from './log.queries.ts';
import type { Applied } from './replica.ts';
import { tellPages } from '../spine/items.ts';
import { keepSetAside } from './set-aside.queries.ts';

/**
 * What events mean for the database, in the transaction that writes the events: calls that are over and what goes back
 * to their records, contacts dialled, ended and given back, opt-outs by key. So a crash loses none of it, and no
 * contact is called twice for one attempt.
 */
export async function writeConsequences(trx: Knex, batch: Applied[]): Promise<void> {
  const ended = batch.flatMap((each) => each.ended);
  await writeCalls(trx, ended);
  await chargeEnded(trx, ended);
  for (const { facts } of ended) await keepMessage(trx, facts);
  for (const { handled } of batch) for (const effect of handled.effects) await writeConsequence(trx, effect);
  await writeBack(trx, ended);
}

/**
 * The same for what was set aside, where something may be unwritable again: each part on its own. What cannot be
 * written is kept whole, and of a call at least a plain line says that it was lost.
 */
export async function writeWhatCanBe(trx: Knex, { event, handled, ended }: Applied): Promise<void> {
  const part = async (
    kind: string,
    callId: string | null,
    content: unknown,
    write: (trx: Knex) => Promise<void>,
  ) => {
    try {
      await trx.transaction(write);
      return true;
    } catch (why) {
      if (!isDataFault(why)) throw why;
      const callIds = callId === null ? [] : [callId];
      await keepSetAside(trx, { what: 'fact', kind, seq: event.seq, callIds, why, content });
      return false;
    }
  };
  for (const call of ended) {
    const { callId } = call.facts;
    if (!(await part('callEnded', callId, call, (inner) => writeCalls(inner, [call]))))
      await part('lostCall', callId, call.facts, (inner) => writeLostCall(inner, call.facts));
    await part('charge', callId, call.facts.usages, (inner) => chargeEnded(inner, [call]));
    await part('message', callId, call.facts.messageMs, (inner) => keepMessage(inner, call.facts));
    await part('writeBack', callId, call.facts.recordId, (inner) => writeBack(inner, [call]));
  }
  for (const effect of handled.effects) {
    const callId =
      effect.kind === 'callEnded' ? effect.facts.callId : 'callId' in effect ? effect.callId : null;
    await part(effect.kind, callId, effect, (inner) => writeConsequence(inner, effect));
  }
}

async function writeConsequence(trx: Knex, effect: Effect): Promise<void> {
  switch (effect.kind) {
    case 'dial':
      if (effect.contact !== null) await contactDialled(trx, effect.contact, effect.callId);
      return;
    case 'returnContacts':
      return returnContacts(trx, effect.contactIds);
    case 'optOut':
      await addOptOuts(trx, [effect.e164], { how: 'key', callId: effect.callId }, false);
      return;
    case 'storm':
      return callStorm(trx, effect.hoursIds, effect.until, effect.personId);
    case 'text':
      return writeTextOfCall(trx, effect);
    case 'surveyAnswered':
      return keepAnswer(trx, effect);
    case 'doneWithMessage':
      return doneWithMessage(trx, effect);
    case 'talkRecorded':
      return keepTalk(trx, effect);
    case 'recordNote':
      return keepCallNote(trx, effect);
    case 'blockedCaller':
      return countHit(trx, effect.blockedId);
    case 'forwardLoop':
      return noteForwardLoop(trx, effect.outsideId);
    case 'groupPresence':
      return tellPages(trx, 'ringGroup', effect.groupId);
    case 'emergency':
      return keepEmergency(trx, effect);
    case 'callEnded': {
      const { contactId, campaignId, attempt, result, endedAt: at } = effect.facts;
      if (contactId !== null && campaignId !== null)
        await contactEnded(trx, { contactId, campaignId, attempt, result, at });
    }
  }
}

async function chargeEnded(trx: Knex, ended: EndedCall[]): Promise<void> {
  await chargeCalls(
    trx,
    ended.flatMap(({ facts }) => facts.usages.map((way) => ({ callId: facts.callId, ...way }))),
  );
}

async function writeBack(trx: Knex, ended: EndedCall[]): Promise<void> {
  const withRecord = ended.flatMap(({ facts }) =>
    facts.recordId === null || facts.direction === 'line'
      ? []
      : [{ callId: facts.callId, recordId: facts.recordId }],
  );
  await queueWriteBack(trx, withRecord);
}

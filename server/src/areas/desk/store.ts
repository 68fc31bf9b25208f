import type { Knex } from 'knex';
import type { CallLive } from '../../live/view.ts';
import type { StoryRecord } from '@night-bell/core/story/records';
import { type Outcome, outcomesOf } from '@night-bell/core/model/outcomes';
import { Problem } from '../../http/problems.ts';
import { contactAgain } from '../campaigns/contacts.queries.ts';
import { addOptOuts } from '../opt-outs/store.ts';
import { resendCall } from '../records/outbox.ts';
import { getRecord } from '../records/store.ts';
import { installation } from '../session/store.ts';

/** What of a call the desk needs, live or over. */
export interface DeskCall {
  id: string;
  direction: 'inbound' | 'outbound';
  personId: string | null;
  /** The other side's number. */
  number: string;
  name: string | null;
  queueId: string | null;
  campaignId: string | null;
  contactId: string | null;
  recordId: string | null;
  sourceId: string | null;
}

export function deskCallOf(live: CallLive): DeskCall {
  const outbound = live.direction === 'outbound';
  return {
    id: live.callId,
    direction: outbound ? 'outbound' : 'inbound',
    personId: live.personId,
    number: outbound ? live.to : live.from,
    name: live.callerName,
    queueId: live.queueId,
    campaignId: live.campaignId,
    contactId: live.contactId,
    recordId: live.recordId,
    sourceId: live.sourceId,
  };
}

export async function endedStory(database: Knex, id: string): Promise<StoryRecord[]> {
  const row = await database('call').where({ id }).first<{ story: StoryRecord[] } | undefined>('story');
  return row?.story ?? [];
}

export async function endedDeskCall(database: Knex, id: string): Promise<DeskCall | null> {
  const row = await database('call')
    .where({ id })
    .first<Record<string, string | null> | undefined>(
      'id',
      'direction',
      'person_id',
      'caller',
      'dialled',
      'caller_name',
      'queue_id',
      'campaign_id',
      'contact_id',
      'record_id',
      'source_id',
    );
  if (row === undefined) return null;
  const outbound = row.direction === 'outbound';
  return {
    id,
    direction: outbound ? 'outbound' : 'inbound',
    personId: row.person_id!,
    number: (outbound ? row.dialled : row.caller)!,
    name: row.caller_name!,
    queueId: row.queue_id!,
    campaignId: row.campaign_id!,
    contactId: row.contact_id!,
    recordId: row.record_id!,
    sourceId: row.source_id!,
  };
}

/** What the call is for: its campaign or queue, with script and outcomes. */
export interface Purpose {
  campaignName: string | null;
  queueName: string | null;
  sourceName: string | null;
  script: string;
  outcomes: readonly Outcome[];
}

export async function purposeOf(database: Knex, call: DeskCall): Promise<Purpose> {
  const named = await database('item')
    .whereIn(
      'id',
      [call.queueId, call.campaignId, call.sourceId].filter((id) => id !== null),
    )
    .select<{ id: string; name: string }[]>('id', 'name');
  const nameOf = (id: string | null) => named.find((row) => row.id === id)?.name ?? null;
  const own =
    call.campaignId !== null
      ? await database('campaign')
          .where({ id: call.campaignId })
          .first<{ script: string; outcomes: Outcome[] } | undefined>('script', 'outcomes')
      : await database('queue')
          .where({ id: call.queueId! })
          .first<{ script: string; outcomes: Outcome[] } | undefined>('script', 'outcomes');
  return {
    campaignName: nameOf(call.campaignId),
    queueName: nameOf(call.queueId),
    sourceName: nameOf(call.sourceId),
    script: own?.script ?? '',
    outcomes: outcomesOf(own?.outcomes ?? []),
  };
}

/** Values of the merge fields for this call and this agent. */
export async function mergeValues(
  database: Knex,
  call: DeskCall,
  agent: { name: string },
): Promise<Record<string, string>> {
  const values: Record<string, string> = {
    'agent.name': agent.name,
    'agent.first_name': agent.name.split(' ')[0]!,
    'company.name': (await installation(database)).name,
    'contact.phone': call.number,
  };
  if (call.name !== null) values['contact.name'] = call.name;
  if (call.contactId !== null) {
    const row = await database('contact')
      .where({ id: call.contactId })
      .first<{ name: string; fields: Record<string, string> } | undefined>('name', 'fields');
    if (row !== undefined) {
      values['contact.name'] = row.name;
      for (const [key, value] of Object.entries(row.fields)) values[`contact.${key}`] = value;
    }
  }
  if (call.recordId !== null) {
    const record = await getRecord(database, call.recordId).catch(() => null);
    if (record !== null) {
      values['contact.name'] ??= record.name;
      values['record.name'] = record.name;
      values['record.id'] = record.externalId;
      for (const [key, value] of Object.entries(record.fields)) values[`record.${key}`] = value;
    }
  }
  return values;
}

export interface StoredOutcome {
  outcome: string | null;
  note: string;
}

export async function storedOutcome(database: Knex, callId: string): Promise<StoredOutcome | null> {
  const row = await database('call_outcome')
    .where({ call_id: callId })
    .first<StoredOutcome | undefined>('outcome', 'note');
  return row ?? null;
}

/**
 * How the agent says the call ended. Goes back to the record again, and decides what becomes of a campaign's contact.
 */
export async function giveOutcome(
  trx: Knex.Transaction,
  call: DeskCall,
  personId: string,
  given: { outcome: string | null; note: string },
): Promise<void> {
  const { outcomes } = await purposeOf(trx, call);
  const chosen = given.outcome === null ? null : outcomes.find((each) => each.name === given.outcome);
  if (chosen === undefined)
    throw Problem.field('/outcome', `Choose one of these: ${outcomes.map((each) => each.name).join(', ')}.`);
  await trx('call_outcome')
    .insert({
      call_id: call.id,
      person_id: personId,
      outcome: given.outcome,
      good: chosen?.good ?? false,
      then_what: chosen?.then ?? 'done',
      note: given.note,
      at: trx.fn.now(),
    })
    .onConflict('call_id')
    .merge();
  await resendCall(trx, call.id);
  if (chosen?.then === 'optOut') await optOutFromDesk(trx, call, personId);
  if (chosen?.then === 'tryAgain' && call.contactId !== null && call.campaignId !== null)
    await contactAgain(trx, call.contactId, call.campaignId);
}

/** Never to be called again: the number of this call, said to the agent. */
export async function optOutFromDesk(
  trx: Knex.Transaction,
  call: DeskCall,
  personId: string,
): Promise<number> {
  return addOptOuts(
    trx,
    [call.number],
    { how: 'desk', byPerson: personId, callId: call.id, campaignId: call.campaignId },
    true,
  );
}

export interface LastCall {
  id: string;
  direction: 'inbound' | 'outbound';
  arrivedAt: string;
  number: string;
  name: string | null;
  about: string | null;
  result: string;
  talkedMs: number;
  outcome: string | null;
  note: string | null;
}

/** The agent's own latest calls, newest first. */
export async function lastCalls(database: Knex, personId: string, limit: number): Promise<LastCall[]> {
  return database('call as c')
    .leftJoin('item as q', 'q.id', database.raw('coalesce(c.campaign_id, c.queue_id)'))
    .leftJoin('record as r', 'r.id', 'c.record_id')
    .leftJoin('call_outcome as o', 'o.call_id', 'c.id')
    .where('c.person_id', personId)
    .whereNot('c.direction', 'line')
    .orderBy([
      { column: 'c.arrived_at', order: 'desc' },
      { column: 'c.id', order: 'desc' },
    ])
    .limit(limit)
    .select<LastCall[]>(
      'c.id',
      'c.direction',
      'c.arrived_at as arrivedAt',
      database.raw(`case when c.direction = 'outbound' then c.dialled else c.caller end as number`),
      database.raw('coalesce(r.name, c.caller_name) as name'),
      'q.name as about',
      'c.result',
      'c.talked_ms as talkedMs',
      'o.outcome',
      'o.note',
    );
}

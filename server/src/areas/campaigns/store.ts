import type { Knex } from 'knex';
import type { CampaignDraft } from '@night-bell/core/model/campaigns.schema';
import type { Outcome } from '@night-bell/core/model/outcomes';
import { Problem } from '../../http/problems.ts';
import {
  announceChange,
  type Author,
  changeItem,
  checkInUse,
  createItem,
  newId,
  reactivateItem,
  recordChange,
  type Reference,
  refuseSameName,
  retireItem,
} from '../../spine/items.ts';
import { checkScript } from '../desk/script.ts';
import { rescheduleContacts } from './contacts.queries.ts';

export type CampaignStatus = 'draft' | 'running' | 'paused' | 'finished';

export interface CampaignView extends CampaignDraft {
  id: string;
  version: number;
  retired: boolean;
  status: CampaignStatus;
  since: string;
  /** Own fields of its contacts, as merge fields name them. */
  fields: string[];
  contacts: number;
  callerId: string | null;
}

interface CampaignRow {
  id: string;
  version: number;
  retired: boolean;
  name: string;
  status: CampaignStatus;
  since: Date;
  queue_id: string | null;
  trunk_id: string | null;
  number_id: string | null;
  caller_id: string | null;
  ratio: string;
  most_in_air: number | null;
  ring_seconds: number;
  abandon_limit: string;
  message: string;
  opt_out_key: string | null;
  attempts: number;
  retry_minutes: number;
  hours_from: number;
  hours_to: number;
  script: string;
  outcomes: Outcome[];
  fields: string[];
  contacts: number;
}

export async function listCampaigns(database: Knex, id: string | null = null): Promise<CampaignView[]> {
  const rows = await database('campaign as c')
    .join('item as i', 'i.id', 'c.id')
    .leftJoin('number as n', 'n.id', 'c.number_id')
    .modify((query) => {
      if (id !== null) void query.where('c.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 'c.id' }])
    .select<CampaignRow[]>(
      'c.*',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'n.e164 as caller_id',
      database.raw('(select count(*)::int from contact k where k.campaign_id = c.id) as contacts'),
    );
  return rows.map((row) => ({
    id: row.id,
    version: row.version,
    retired: row.retired,
    name: row.name,
    status: row.status,
    since: row.since.toISOString(),
    queueId: row.queue_id,
    trunkId: row.trunk_id,
    numberId: row.number_id,
    callerId: row.caller_id,
    ratio: Number(row.ratio),
    mostInAir: row.most_in_air,
    ringSeconds: row.ring_seconds,
    abandonPercent: Math.round(Number(row.abandon_limit) * 10_000) / 100,
    message: row.message,
    optOutKey: row.opt_out_key,
    attempts: row.attempts,
    retryMinutes: row.retry_minutes,
    hoursFrom: row.hours_from,
    hoursTo: row.hours_to,
    script: row.script,
    outcomes: row.outcomes,
    fields: row.fields,
    contacts: row.contacts,
  }));
}

export async function getCampaign(database: Knex, id: string): Promise<CampaignView> {
  const [campaign] = await listCampaigns(database, id);
  if (campaign === undefined) throw new Problem('notFound', 'There is no such campaign.');
  return campaign;
}

export function campaignSnapshot(campaign: CampaignDraft): CampaignDraft {
  const { name, queueId, trunkId, numberId, ratio, mostInAir, ringSeconds, abandonPercent } = campaign;
  const { message, optOutKey, attempts, retryMinutes, hoursFrom, hoursTo, script, outcomes } = campaign;
  return {
    name,
    queueId,
    trunkId,
    numberId,
    ratio,
    mostInAir,
    ringSeconds,
    abandonPercent,
    message,
    optOutKey,
    attempts,
    retryMinutes,
    hoursFrom,
    hoursTo,
    script,
    outcomes,
  };
}

function columnsOf(draft: CampaignDraft) {
  return {
    queue_id: draft.queueId,
    trunk_id: draft.trunkId,
    number_id: draft.numberId,
    ratio: draft.ratio,
    most_in_air: draft.mostInAir,
    ring_seconds: draft.ringSeconds,
    abandon_limit: draft.abandonPercent / 100,
    message: draft.message,
    opt_out_key: draft.optOutKey,
    attempts: draft.attempts,
    retry_minutes: draft.retryMinutes,
    hours_from: draft.hoursFrom,
    hours_to: draft.hoursTo,
    script: draft.script,
    outcomes: JSON.stringify(draft.outcomes),
  };
}

function referencesOf(draft: CampaignDraft): Reference[] {
  const named = [
    { to: draft.queueId, how: 'answered calls' },
    { to: draft.trunkId, how: 'dials over' },
    { to: draft.numberId, how: 'caller ID' },
  ];
  return named.flatMap(({ to, how }) => (to === null ? [] : [{ to, how }]));
}

async function checkCampaign(
  trx: Knex,
  draft: CampaignDraft,
  id: string | null,
  fields: string[] | null,
): Promise<void> {
  await refuseSameName(trx, 'campaign', draft.name, id);
  await checkInUse(trx, draft.queueId, 'queue', '/queueId');
  await checkInUse(trx, draft.trunkId, 'trunk', '/trunkId');
  await checkInUse(trx, draft.numberId, 'number', '/numberId');
  // Before there is a list nobody can know its fields; starting asks again.
  if (fields !== null) await checkScript(trx, draft.script, '/script', fields);
}

export async function createCampaign(
  trx: Knex.Transaction,
  draft: CampaignDraft,
  author: Author,
): Promise<string> {
  await checkCampaign(trx, draft, null, null);
  const id = newId();
  const after = campaignSnapshot(draft);
  const references = referencesOf(draft);
  await createItem(trx, { id, kind: 'campaign', name: draft.name, after, references }, author);
  await trx('campaign').insert({ id, ...columnsOf(draft) });
  await announceChange(trx);
  return id;
}

export async function changeCampaign(
  trx: Knex.Transaction,
  id: string,
  version: number,
  draft: CampaignDraft,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getCampaign(trx, id);
  await checkCampaign(trx, draft, id, current.contacts === 0 ? null : current.fields);
  if (current.status === 'running') requireComplete(draft);
  await changeItem(
    trx,
    {
      id,
      name: draft.name,
      before: campaignSnapshot(current),
      after: campaignSnapshot(draft),
      references: referencesOf(draft),
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  await trx('campaign').where({ id }).update(columnsOf(draft));
  if (draft.hoursFrom !== current.hoursFrom || draft.hoursTo !== current.hoursTo)
    await rescheduleContacts(trx, id, { from: draft.hoursFrom, to: draft.hoursTo });
  await announceChange(trx);
}

function requireComplete(draft: CampaignDraft): void {
  if (draft.queueId === null)
    throw Problem.field('/queueId', 'Choose the queue whose agents take the answered calls.');
  if (draft.trunkId === null) throw Problem.field('/trunkId', 'Choose the trunk to dial over.');
  if (draft.numberId === null)
    throw Problem.field('/numberId', 'Choose the number that contacts see: one of those held here.');
}

const transitions: Record<'start' | 'pause' | 'finish', { from: CampaignStatus[]; to: CampaignStatus }> = {
  start: { from: ['draft', 'paused', 'finished'], to: 'running' },
  pause: { from: ['running'], to: 'paused' },
  finish: { from: ['running', 'paused'], to: 'finished' },
};

/** Starts, pauses or finishes a campaign. Starting needs all that dialling needs, and says what is missing where. */
export async function moveCampaign(
  trx: Knex.Transaction,
  id: string,
  what: keyof typeof transitions,
  author: Author,
): Promise<void> {
  const campaign = await getCampaign(trx, id);
  if (campaign.retired) throw new Problem('notNow', `${campaign.name} is deactivated. Reactivate it first.`);
  const { from, to } = transitions[what];
  if (what === 'start') {
    requireComplete(campaign);
    await checkCampaign(trx, campaign, id, campaign.fields);
    if (campaign.contacts === 0)
      throw new Problem('notNow', 'There is nobody to call yet. Bring a contact list first.');
  }
  const moved = await trx('campaign')
    .where({ id })
    .whereIn('status', from)
    .update({ status: to, since: trx.fn.now() });
  if (moved === 0)
    throw new Problem(
      'notNow',
      `${campaign.name} is ${campaign.status}; it cannot be ${pastTense[what]} now.`,
    );
  const change = { item_id: id, what: 'changed', before: { status: campaign.status }, after: { status: to } };
  await recordChange(trx, change, author);
  await announceChange(trx);
}

const pastTense = { start: 'started', pause: 'paused', finish: 'finished' } as const;

export async function retireCampaign(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const campaign = await getCampaign(trx, id);
  if (campaign.status === 'running')
    throw new Problem('notNow', `${campaign.name} is dialling. Pause or finish it first.`);
  await retireItem(trx, id, version, author);
  await announceChange(trx);
}

export async function reactivateCampaign(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const campaign = await getCampaign(trx, id);
  await refuseSameName(trx, 'campaign', campaign.name, id);
  await reactivateItem(trx, id, version, author);
  await announceChange(trx);
}

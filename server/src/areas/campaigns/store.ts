import type { Knex } from 'knex';
import {
  type CampaignDraft,
  campaigns,
  type CampaignStatus,
  type CampaignView,
} from '@night-bell/core/contracts/campaigns';
import { Problem } from '../../http/problems.ts';
import { defineItem } from '../../spine/define-item.ts';
import { announceChange, type Author, checkInUse, recordChange } from '../../spine/items.ts';
import { checkScript } from '../desk/script.ts';
import { rescheduleContacts } from './contacts.queries.ts';

type CampaignRow = Omit<CampaignView, 'since'> & { since: Date };

export const campaignItem = defineItem<typeof campaigns.path, CampaignDraft, CampaignView, CampaignRow>({
  kind: 'campaign',
  contract: campaigns,
  word: 'campaign',
  table: 'campaign',
  columns: {
    ...{ queueId: 'queue_id', trunkId: 'trunk_id', numberId: 'number_id', mostInAir: 'most_in_air' },
    ratio: { column: 'ratio', read: 't.ratio::float8' },
    abandonPercent: {
      column: 'abandon_limit',
      read: 'round(t.abandon_limit * 100, 2)::float8',
      write: (percent: number) => percent / 100,
    },
    ...{ ringSeconds: 'ring_seconds', message: 'message', optOutKey: 'opt_out_key', attempts: 'attempts' },
    ...{ retryMinutes: 'retry_minutes', hoursFrom: 'hours_from', hoursTo: 'hours_to', script: 'script' },
    outcomes: { column: 'outcomes', json: true },
  },
  joins: 'left join number n on n.id = t.number_id',
  more: {
    ...{ status: 't.status', since: 't.since', fields: 't.fields', callerId: 'n.e164' },
    contacts: '(select count(*)::int from contact k where k.campaign_id = t.id)',
  },
  view: ({ since, ...row }) => ({ ...row, since: since.toISOString() }),
  references: ({ queueId, trunkId, numberId }) =>
    [
      { to: queueId, how: 'answered calls' },
      { to: trunkId, how: 'dials over' },
      { to: numberId, how: 'caller ID' },
    ].flatMap(({ to, how }) => (to === null ? [] : [{ to, how }])),
  check: async (trx, draft, current) => {
    // Before there is a list nobody can know its fields; starting asks again.
    await checkCampaign(trx, draft, current === null || current.contacts === 0 ? null : current.fields);
    if (current?.status === 'running') requireComplete(draft);
  },
  changed: async (trx, { hoursFrom, hoursTo }, before) => {
    if (hoursFrom !== before.hoursFrom || hoursTo !== before.hoursTo)
      await rescheduleContacts(trx, before.id, { from: hoursFrom, to: hoursTo });
  },
  refuseRetiring: (_trx, { name, status }) =>
    status === 'running'
      ? Promise.reject(new Problem('notNow', `${name} is dialling. Pause or finish it first.`))
      : Promise.resolve(),
});

async function checkCampaign(trx: Knex, draft: CampaignDraft, fields: string[] | null): Promise<void> {
  await checkInUse(trx, draft.queueId, 'queue', '/queueId');
  await checkInUse(trx, draft.trunkId, 'trunk', '/trunkId');
  await checkInUse(trx, draft.numberId, 'number', '/numberId');
  if (fields !== null) await checkScript(trx, draft.script, '/script', fields);
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
  const campaign = await campaignItem.get(trx, id);
  if (campaign.retired) throw new Problem('notNow', `${campaign.name} is deactivated. Reactivate it first.`);
  const { from, to } = transitions[what];
  if (what === 'start') {
    requireComplete(campaign);
    await checkCampaign(trx, campaign, campaign.fields);
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

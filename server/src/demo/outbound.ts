import type { Knex } from 'knex';
import { stringify } from 'csv-stringify/sync';
import { objectSchema } from '@night-bell/core/contracts/item';
import type { Outcome } from '@night-bell/core/model/outcomes';
import { importContacts } from '../areas/campaigns/import.ts';
import { campaignItem, moveCampaign } from '../areas/campaigns/store.ts';
import { addOptOuts } from '../areas/opt-outs/store.ts';
import { authorOf } from '../spine/items.ts';
import { checked, itemCalled } from './by-name.ts';

export interface DemoCampaign {
  name: string;
  status: 'running' | 'paused' | 'draft';
  queue: string;
  trunk: string;
  callerId: string | null;
  ratio: number;
  mostInAir: number | null;
  ringSeconds: number;
  retryMinutes: number;
  /** Which customers are on the list, and how many of them. */
  list: { kind: string; first?: number };
  script: string;
  outcomes: Outcome[];
  /** How often each outcome is given. */
  weights: number[];
}

interface ListedRecord {
  name: string;
  fields: Record<string, string>;
  number: string;
}

/** Makes the campaigns with lists out of the customer records, by the code that reads everybody's lists. */
export async function loadCampaigns(
  trx: Knex.Transaction,
  campaigns: DemoCampaign[],
  optOuts: string[],
): Promise<void> {
  const author = authorOf(null);
  await addOptOuts(trx, optOuts, { how: 'import' }, false);
  for (const campaign of campaigns) {
    const { status, queue, trunk, callerId, list, weights: _weights, script, ...rest } = campaign;
    const number =
      callerId === null
        ? undefined
        : await trx('number').where({ e164: callerId }).first<{ id: string } | undefined>('id');
    const draft = objectSchema(campaignItem.contract.draft).validate({
      ...rest,
      script,
      queueId: await itemCalled(trx, ['queue'], queue),
      trunkId: await itemCalled(trx, ['trunk'], trunk),
      numberId: number?.id ?? null,
    });
    const id = await campaignItem.create(trx, checked(draft), author);
    const records = await recordsOfKind(trx, list.kind, list.first ?? 100_000);
    if (records.length > 0) await importContacts(trx, id, listOf(records), null);
    if (status !== 'draft' && records.length > 0) await moveCampaign(trx, id, 'start', author);
    if (status === 'paused' && records.length > 0) await moveCampaign(trx, id, 'pause', author);
  }
}

function recordsOfKind(trx: Knex, kind: string, limit: number): Promise<ListedRecord[]> {
  return trx('record as r')
    .join('record_number as n', 'n.record_id', 'r.id')
    .whereRaw(`r.fields ->> 'kind' = ?`, [kind])
    .orderBy('r.external_id')
    .limit(limit)
    .select<ListedRecord[]>('r.name', 'r.fields', 'n.e164 as number');
}

function listOf(records: ListedRecord[]): string {
  return stringify(
    records.map(({ name, fields, number }) => ({
      'First name': fields.first_name ?? '',
      'Last name': fields.last_name ?? '',
      Name: name,
      Phone: number,
      Route: fields.route ?? '',
      Fare: fields.fare ?? '',
      Vehicle: fields.vehicle ?? '',
    })),
    { header: true },
  );
}

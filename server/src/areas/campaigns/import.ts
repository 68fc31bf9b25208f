import { setImmediate } from 'node:timers/promises';
import type { Knex } from 'knex';
import { v7 as uuid } from 'uuid';
import {
  type CheckedList,
  ContactCheck,
  type ContactMapping,
  matchColumns,
} from '@night-bell/core/outbound/contact-list';
import { dueKey } from '@night-bell/core/outbound/retry';
import { Problem } from '../../http/problems.ts';
import { zoneClocks } from '../../live/zones.ts';
import { readTable, type Table } from '../../spine/tables.ts';
import { getCampaign } from './store.ts';

const atOnce = 2_000;

export interface ReadList {
  table: Table;
  mapping: ContactMapping;
  /** Null while no column holds the numbers. */
  checked: CheckedList | null;
}

/** Reads and checks a list against the campaign's contacts and the opt-outs, without keeping anything. */
export async function readList(
  database: Knex,
  campaignId: string,
  text: string,
  mapping: ContactMapping | null,
): Promise<ReadList> {
  const table = await readTable(text, '/text');
  const chosen = mapping ?? matchColumns(table.headers);
  const columns = [chosen.phone, chosen.name, chosen.firstName, chosen.lastName].filter(
    (each) => each !== null,
  );
  for (const column of [...columns, ...chosen.fields.map((field) => field.column)])
    if (column >= table.headers.length)
      throw Problem.field('/mapping', 'The mapping names a column that is not there.');
  if (chosen.phone === null) return { table, mapping: chosen, checked: null };
  const listed = new Set<string>(await database('contact').where({ campaign_id: campaignId }).pluck('e164'));
  const optedOut = new Set<string>(await database('opt_out').pluck('e164'));
  const check = new ContactCheck(chosen, listed, optedOut);
  for (let i = 0; i < table.rows.length; i += atOnce) {
    check.take(table.rows.slice(i, i + atOnce));
    // Calls go on while a list is checked.
    await setImmediate();
  }
  return { table, mapping: chosen, checked: check.checked };
}

/** Keeps all good rows in one transaction, or none. */
export async function importContacts(
  trx: Knex.Transaction,
  campaignId: string,
  text: string,
  mapping: ContactMapping | null,
): Promise<CheckedList> {
  const campaign = await getCampaign(trx, campaignId);
  const { mapping: chosen, checked } = await readList(trx, campaignId, text, mapping);
  if (checked === null)
    throw Problem.field('/mapping', 'No column is called phone. Say which column holds the numbers.');
  if (checked.contacts.length === 0)
    throw Problem.field('/text', 'No row can be called. The faults are shown row by row.');
  const last = await trx('contact')
    .where({ campaign_id: campaignId })
    .max<{ max: number | null }[]>('position');
  let position = last[0]?.max ?? 0;
  const hours = { from: campaign.hoursFrom, to: campaign.hoursTo };
  const now = Date.now();
  const dueByZones = new Map<string, Date | null>();
  const dueOf = (zones: string[]) => {
    const key = zones.join();
    let due = dueByZones.get(key);
    if (due === undefined) {
      const at = dueKey(now, zoneClocks(zones), hours);
      due = at === null ? null : new Date(at);
      dueByZones.set(key, due);
    }
    return due;
  };
  for (let i = 0; i < checked.contacts.length; i += atOnce) {
    const part = checked.contacts.slice(i, i + atOnce).map((contact) => ({
      id: uuid(),
      position: ++position,
      due: dueOf(contact.zones),
      ...contact,
    }));
    // Arrays, not a value for each cell: a hundred thousand rows would be past the limit of bound values.
    await trx.raw(
      `insert into contact (id, campaign_id, position, e164, name, fields, zones, state, due_at)
       select r.id, ?, r.position, r.e164, r.name, r.fields, string_to_array(r.zones, ','), r.state,
         nullif(r.due_at, '')::timestamptz
       from unnest(?::uuid[], ?::int[], ?::text[], ?::text[], ?::jsonb[], ?::text[], ?::text[], ?::text[])
         as r (id, position, e164, name, fields, zones, state, due_at)`,
      [
        campaignId,
        part.map((each) => each.id),
        part.map((each) => each.position),
        part.map((each) => each.e164),
        part.map((each) => each.name),
        part.map((each) => JSON.stringify(each.fields)),
        part.map((each) => each.zones.join()),
        part.map((each) => (each.due === null ? 'unreached' : 'due')),
        part.map((each) => each.due?.toISOString() ?? ''),
      ],
    );
  }
  const fields = [...new Set([...campaign.fields, ...chosen.fields.map((field) => field.key)])];
  await trx('campaign').where({ id: campaignId }).update({ fields });
  await trx('exchange_inbox').insert({ body: JSON.stringify({ kind: 'contactsChanged', campaignId }) });
  await trx.raw(`select pg_notify('night_bell_inbox', '')`);
  return checked;
}

import { setImmediate } from 'node:timers/promises';
import type { Knex } from 'knex';
import { ContactCheck, type ContactMapping, type ListReport } from '@night-bell/core/outbound/contact-list';
import { onConnection } from '../../database/connection.ts';
import { type LongTable, readTable, type Table } from '../../spine/tables.ts';
import { chosenMapping, copyContacts } from './copy-contacts.ts';
import { campaignItem } from './store.ts';

const atOnce = 2_000;

export interface ReadList {
  table: Table;
  mapping: ContactMapping;
  /** Null while no column holds the numbers. */
  report: ListReport | null;
}

/** Reads and checks a list against the campaign's contacts and the opt-outs, without keeping anything. */
export async function readList(
  database: Knex,
  campaignId: string,
  text: string,
  mapping: ContactMapping | null,
): Promise<ReadList> {
  const table = await readTable(text, '/text');
  const chosen = chosenMapping(table.headers, mapping);
  if (chosen.phone === null) return { table, mapping: chosen, report: null };
  const listed = new Set<string>(await database('contact').where({ campaign_id: campaignId }).pluck('e164'));
  const optedOut = new Set<string>(await database('opt_out').pluck('e164'));
  const check = new ContactCheck(chosen, listed, optedOut);
  for (let i = 0; i < table.rows.length; i += atOnce) {
    check.take(table.rows.slice(i, i + atOnce));
    // Calls go on while a list is checked.
    await setImmediate();
  }
  return { table, mapping: chosen, report: check.report };
}

/** Keeps all good rows of a list that is held whole, in the transaction at hand, or none. */
export async function importContacts(
  trx: Knex.Transaction,
  campaignId: string,
  text: string,
  mapping: ContactMapping | null,
): Promise<ListReport> {
  await campaignItem.get(trx, campaignId);
  const { headers, rows } = await readTable(text, '/text');
  async function* parts() {
    for (let i = 0; i < rows.length; i += atOnce) {
      yield rows.slice(i, i + atOnce);
      await setImmediate();
    }
  }
  const table: LongTable = { headers, rows: parts() };
  return onConnection(trx, (client) => copyContacts(client, { campaignId, mapping }, table));
}

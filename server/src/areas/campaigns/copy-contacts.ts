import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { v7 as uuid } from 'uuid';
import {
  ContactCheck,
  type ContactMapping,
  type ListedContact,
  type ListReport,
  matchColumns,
  NumberSet,
} from '@night-bell/core/outbound/contact-list';
import { dueKey } from '@night-bell/core/outbound/retry';
import { Problem } from '../../http/problems.ts';
import { zoneClocks } from '../../live/zones.ts';
import type { LongTable } from '../../spine/tables.ts';

export interface ImportAsked {
  campaignId: string;
  /** Null for what the names of the columns say. */
  mapping: ContactMapping | null;
}

/** What is said of the last part: it takes as long as the copying, and nothing is counted in it. */
export const settling = 'Checking all of them against the other tables';

/** The one given, which must fit, or what the names of the columns say. */
export function chosenMapping(headers: readonly string[], mapping: ContactMapping | null): ContactMapping {
  const chosen = mapping ?? matchColumns(headers);
  const columns = [chosen.phone, chosen.name, chosen.firstName, chosen.lastName].filter(
    (each) => each !== null,
  );
  for (const column of [...columns, ...chosen.fields.map((field) => field.column)])
    if (column >= headers.length)
      throw Problem.field('/mapping', 'The mapping names a column that is not there.');
  return chosen;
}

/**
 * Checks the rows of a list and copies the good ones into the campaign, straight from the stream, in the transaction of
 * this connection. One list of a campaign at a time. `tell` hears how many rows were read, and may throw to stop it all.
 */
export async function copyContacts(
  client: pg.ClientBase,
  { campaignId, mapping }: ImportAsked,
  { headers, rows }: LongTable,
  tell: (read: number, doing: string | null) => Promise<void> = () => Promise.resolve(),
): Promise<ListReport> {
  const chosen = chosenMapping(headers, mapping);
  if (chosen.phone === null)
    throw Problem.field('/mapping', 'No column is called phone. Say which column holds the numbers.');
  await client.query(`select pg_advisory_xact_lock(hashtext('contacts of ' || $1))`, [campaignId]);
  const campaign = await campaignOf(client, campaignId);
  const check = new ContactCheck(
    chosen,
    await numbersIn(client, 'contact where campaign_id = $1', [campaignId]),
    await numbersIn(client, 'opt_out', []),
  );
  let { position } = campaign;
  const due = dueTimes(campaign);
  const asLine = (contact: ListedContact) => line(campaignId, ++position, contact, due(contact.zones));
  let read = 0;
  async function* lines() {
    for await (const part of rows) {
      const text = check.take(part).map(asLine).join('');
      read += part.length;
      await tell(read, null);
      if (text !== '') yield text;
    }
    await tell(read, settling);
  }
  await pipeline(Readable.from(lines()), client.query(copyFrom(copyStatement)));
  const { report } = check;
  if (report.good === 0)
    throw Problem.field('/text', 'No row can be called. The faults are shown row by row.');
  const fields = [...new Set([...campaign.fields, ...chosen.fields.map((field) => field.key)])];
  await client.query('update campaign set fields = $2 where id = $1', [campaignId, fields]);
  await client.query('insert into exchange_inbox (body) values ($1)', [
    JSON.stringify({ kind: 'contactsChanged', campaignId }),
  ]);
  await client.query(`select pg_notify('night_bell_inbox', '')`);
  return report;
}

const copyStatement = `copy contact (id, campaign_id, position, e164, name, fields, zones, state, due_at) from stdin`;

/** Special in the text format of COPY (PostgreSQL, "COPY", File Formats). */
const escaped = (text: string) =>
  /[\\\n\r\t]/.test(text)
    ? text.replace(/[\\\n\r\t]/g, (sign) => ({ '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' })[sign]!)
    : text;

/** Names of zones hold nothing that an array would have to quote. */
function line(
  campaignId: string,
  position: number,
  { e164, name, fields, zones }: ListedContact,
  due: string | null,
): string {
  const state = due === null ? 'unreached' : 'due';
  const texts = `${escaped(name)}\t${escaped(JSON.stringify(fields))}\t{${zones.join()}}`;
  return `${uuid()}\t${campaignId}\t${position}\t${e164}\t${texts}\t${state}\t${due ?? '\\N'}\n`;
}

interface Campaign {
  fields: string[];
  position: number;
  from: number;
  to: number;
}

async function campaignOf(client: pg.ClientBase, id: string): Promise<Campaign> {
  const { rows } = await client.query<Campaign>(
    `select c.fields, c.hours_from as "from", c.hours_to as "to",
       coalesce((select max(position) from contact where campaign_id = c.id), 0) as position
     from campaign c where c.id = $1`,
    [id],
  );
  if (rows[0] === undefined) throw new Problem('notFound', 'There is no such campaign.');
  return rows[0];
}

/** When a contact of these zones may be called first, by the campaign's hours from now on. */
function dueTimes(hours: { from: number; to: number }): (zones: string[]) => string | null {
  const now = Date.now();
  const known = new Map<string, string | null>();
  return (zones) => {
    const key = zones.join();
    let due = known.get(key);
    if (due === undefined) {
      const at = dueKey(now, zoneClocks(zones), hours);
      known.set(key, (due = at === null ? null : new Date(at).toISOString()));
    }
    return due;
  };
}

/** All numbers of a table as one text: an object for each row would take many times the room. */
async function numbersIn(client: pg.ClientBase, table: string, values: unknown[]): Promise<NumberSet> {
  const { rows } = await client.query<{ all: string | null }>(
    `select string_agg(substr(e164, 2), ' ') as all from ${table}`,
    values,
  );
  const all = rows[0]!.all ?? '';
  const numbers = new NumberSet();
  for (let at = 0; at < all.length;) {
    const space = all.indexOf(' ', at);
    const until = space < 0 ? all.length : space;
    numbers.add(all.slice(at, until));
    at = until + 1;
  }
  return numbers;
}

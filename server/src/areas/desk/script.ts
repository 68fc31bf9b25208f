import type { Knex } from 'knex';
import { mergeFault } from '@night-bell/core/match/merge';
import { Problem } from '../../http/problems.ts';

/** What every script may speak of. */
const common = ['agent.name', 'agent.first_name', 'company.name', 'contact.name', 'contact.phone'];
const ofContacts = ['contact.first_name', 'contact.last_name'];

/** Merge fields a script may use: the common ones, a contact's own, and those of the customer records. */
export async function scriptFields(database: Knex, ownFields: readonly string[]): Promise<string[]> {
  const own = [...ofContacts, ...ownFields.map((field) => `contact.${field}`)];
  return [...new Set([...common, ...own, ...(await recordFields(database))])];
}

/** `record.name` and the fields that records have, from those read last. */
export async function recordFields(database: Knex): Promise<string[]> {
  const { rows } = await database.raw<{ rows: { field: string }[] }>(
    `select distinct jsonb_object_keys(fields) as field
     from (select fields from record order by read_at desc, id limit 50) as latest order by field`,
  );
  return ['record.name', 'record.id', ...rows.map((row) => `record.${row.field}`)];
}

/** Refuses a script that names a field nobody has. */
export async function checkScript(
  database: Knex,
  text: string,
  path: string,
  ownFields: readonly string[],
): Promise<void> {
  if (!/[{}]/.test(text)) return;
  const fault = mergeFault(text, await scriptFields(database, ownFields));
  if (fault !== null) throw Problem.field(path, fault);
}

import type { Knex } from 'knex';
import type { RecordFacts } from '@night-bell/core/story/facts';
import type { Outgoing } from '../../outgoing/outgoing.ts';
import type { SecretBox } from '../../security/secret-box.ts';
import { Crm, CrmFault } from './crm.ts';
import { connectionDoors, mostFields, recordFacts, recordJoins } from './store.ts';

interface Found extends RecordFacts {
  externalId: string;
  connectionId: string;
}

/** As its index has them (migration 0040). */
const ownDigits = `ltrim(regexp_replace(r.external_id, '[^0-9]', '', 'g'), '0') = ltrim(asked.digits, '0')`;

/** The records that these digits belong to: in a field, or as the digits of their own number. */
async function byDigits(
  database: Knex,
  digits: readonly string[],
  field: string,
): Promise<(Found & { digits: string })[]> {
  const { rows } = await database.raw<{ rows: (Found & { digits: string })[] }>(
    `select asked.digits, ${recordFacts}, r.external_id as "externalId", r.connection_id as "connectionId"
     from unnest(?::text[]) as asked (digits)
     join record r on ${field === '' ? ownDigits : "regexp_replace(r.fields ->> ?, '[^0-9]', '', 'g') = asked.digits"}
     ${recordJoins}
     order by asked.digits, r.read_at desc, r.id`,
    [[...digits], ...(field === '' ? [] : [field])],
  );
  return rows;
}

/**
 * Who the customer system knows by typed digits: found among the records kept here, then asked for there, so that what a
 * plan goes by is of now. Null for nobody, or when several would be meant. Throws when the system does not answer.
 */
export async function lookUpRecord(
  { database, seal, outgoing }: { database: Knex; seal: SecretBox; outgoing: Outgoing },
  { digits, field, withinMs }: { digits: string; field: string; withinMs: number },
): Promise<RecordFacts | null> {
  const [found, ...others] = await byDigits(database, [digits], field);
  if (found === undefined || others.length > 0) return null;
  const door = (await connectionDoors(database, seal)).find(({ id }) => id === found.connectionId);
  if (door === undefined) return null;
  const { externalId, connectionId: _connection, ...known } = found;
  const facts = { id: known.id, name: known.name, ownerId: known.ownerId };
  try {
    const crm = new Crm(outgoing, door.address, door.key, withinMs);
    const { name, fields } = await crm.record(externalId);
    return { ...facts, name, fields: bounded(fields) };
  } catch (error) {
    if (error instanceof CrmFault && error.code === 'unknownRecord') return null;
    throw error;
  }
}

/** As records kept here have them, for a call that is only tried: nobody outside is asked. */
export async function recordsByDigits(
  database: Knex,
  digits: readonly string[],
  field: string,
): Promise<Record<string, RecordFacts>> {
  const found: Record<string, RecordFacts | null> = {};
  for (const { digits: typed, id, name, ownerId, fields } of await byDigits(database, digits, field))
    found[typed] = typed in found ? null : { id, name, ownerId, ...(fields === undefined ? {} : { fields }) };
  return Object.fromEntries(
    Object.entries(found).flatMap(([typed, each]) => (each === null ? [] : [[typed, each]])),
  );
}

const bounded = (fields: Readonly<Record<string, string>>) =>
  Object.fromEntries(
    Object.entries(fields)
      .sort()
      .slice(0, mostFields)
      .map(([key, value]) => [key.slice(0, 80), value.slice(0, 200)]),
  );

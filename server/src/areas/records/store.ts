import type { Knex } from 'knex';
import { v7 as uuid } from 'uuid';
import type { RecordFacts } from '@night-bell/core/story/facts';
import type { ConnectionDraft } from '@night-bell/core/model/connections.schema';
import { mergeFault } from '@night-bell/core/match/merge';
import { readNumber } from '@night-bell/core/numbers/e164';
import { prepared } from '../../database/connection.ts';
import { Problem } from '../../http/problems.ts';
import type { SecretBox } from '../../security/secret-box.ts';
import {
  type Author,
  changeItem,
  createItem,
  newId,
  reactivateItem,
  refuseSameName,
  retireItem,
} from '../../spine/items.ts';
import { recordFields } from '../desk/script.ts';
import type { CrmRecord } from './crm.ts';

export interface ConnectionView {
  id: string;
  version: number;
  retired: boolean;
  name: string;
  address: string;
  link: string;
  records: number;
  okAt: string | null;
  fault: string | null;
  faultAt: string | null;
  /** Results of calls that wait to be written back. */
  waiting: number;
}

export async function listConnections(database: Knex, id: string | null = null): Promise<ConnectionView[]> {
  return database('connection as c')
    .join('item as i', 'i.id', 'c.id')
    .modify((query) => {
      if (id !== null) void query.where('c.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 'c.id' }])
    .select<ConnectionView[]>(
      'c.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'c.address',
      'c.link',
      database.raw('(select count(*)::int from record r where r.connection_id = c.id) as records'),
      'c.ok_at as okAt',
      'c.fault',
      'c.fault_at as faultAt',
      database.raw(
        '(select count(*)::int from outbox o where o.connection_id = c.id and o.sent_revision < o.revision) as waiting',
      ),
    );
}

export async function getConnection(database: Knex, id: string): Promise<ConnectionView> {
  const [connection] = await listConnections(database, id);
  if (connection === undefined) throw new Problem('notFound', 'There is no such connection.');
  return connection;
}

function snapshot({ name, address, link }: ConnectionDraft) {
  return { name, address, link };
}

async function checkConnection(trx: Knex, draft: ConnectionDraft, id: string | null): Promise<void> {
  await refuseSameName(trx, 'connection', draft.name, id);
  const fault = mergeFault(draft.link, await recordFields(trx));
  if (fault !== null) throw Problem.field('/link', fault);
}

export async function createConnection(
  trx: Knex.Transaction,
  seal: SecretBox,
  draft: ConnectionDraft,
  author: Author,
): Promise<string> {
  if (draft.key === undefined) throw Problem.field('/key', 'Paste the key the customer system gave you.');
  const other = await trx('item').where({ kind: 'connection' }).whereNull('retired_at').first('name');
  if (other !== undefined)
    throw new Problem(
      'notNow',
      `${other.name} is connected already. Deactivate it before another takes its place.`,
    );
  await checkConnection(trx, draft, null);
  const id = newId();
  await createItem(
    trx,
    { id, kind: 'connection', name: draft.name, after: snapshot(draft), references: [] },
    author,
  );
  const { address, link } = draft;
  await trx('connection').insert({ id, address, link, key_sealed: seal.seal(draft.key) });
  return id;
}

export async function changeConnection(
  trx: Knex.Transaction,
  seal: SecretBox,
  id: string,
  version: number,
  draft: ConnectionDraft,
  author: Author,
): Promise<void> {
  const current = await getConnection(trx, id);
  await checkConnection(trx, draft, id);
  // The stored key is for the stored address: nobody has it sent elsewhere by changing the address alone.
  if (draft.key === undefined && draft.address !== current.address)
    throw Problem.field('/key', 'The address is another one: paste the key for it.');
  const before = snapshot(current);
  const after = snapshot(draft);
  await changeItem(trx, { id, name: draft.name, before, after, references: [], version, current }, author);
  const { address, link, key } = draft;
  await trx('connection')
    .where({ id })
    .update({
      address,
      link,
      fault: null,
      ...(address === current.address ? {} : { read_until: null }),
      ...(key === undefined ? {} : { key_sealed: seal.seal(key) }),
    });
}

export async function retireConnection(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  await getConnection(trx, id);
  await retireItem(trx, id, version, author);
}

export async function reactivateConnection(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const connection = await getConnection(trx, id);
  await refuseSameName(trx, 'connection', connection.name, id);
  await reactivateItem(trx, id, version, author);
}

/** What a connection is asked with; only ones in use. */
export interface ConnectionDoor {
  id: string;
  address: string;
  key: string;
  readUntil: Date | null;
}

export async function connectionDoors(database: Knex, seal: SecretBox): Promise<ConnectionDoor[]> {
  const rows = await database('connection as c')
    .join('item as i', 'i.id', 'c.id')
    .whereNull('i.retired_at')
    .orderBy('c.id')
    .select<{ id: string; address: string; key_sealed: string; read_until: Date | null }[]>(
      'c.id',
      'c.address',
      'c.key_sealed',
      'c.read_until',
    );
  return rows.map(({ id, address, key_sealed, read_until }) => ({
    id,
    address,
    key: seal.open(key_sealed),
    readUntil: read_until,
  }));
}

/** Keeps what was read of records, with their numbers as E.164. Numbers that cannot be read are left out. */
export async function keepRecords(
  trx: Knex.Transaction,
  connectionId: string,
  records: CrmRecord[],
): Promise<void> {
  if (records.length === 0) return;
  const rows = await trx('record')
    .insert(
      records.map((record) => ({
        id: uuid(),
        connection_id: connectionId,
        external_id: record.id,
        name: record.name,
        owner_login: record.owner,
        fields: JSON.stringify(record.fields),
        read_at: trx.fn.now(),
      })),
    )
    .onConflict(['connection_id', 'external_id'])
    .merge(['name', 'owner_login', 'fields', 'read_at'])
    .returning<{ id: string; external_id: string }[]>(['id', 'external_id']);
  const idOf = new Map(rows.map((row) => [row.external_id, row.id]));
  const numbers = records.flatMap((record) =>
    [...new Set(record.numbers.map(readNumber).flatMap((reading) => (reading.ok ? [reading.e164] : [])))].map(
      (e164) => ({ e164, record_id: idOf.get(record.id)! }),
    ),
  );
  await trx('record_number')
    .whereIn('record_id', [...idOf.values()])
    .delete();
  if (numbers.length > 0) await trx('record_number').insert(numbers);
}

/** Of a record, as plans may ask for them. */
export const mostFields = 40;

/** SQL of what the exchange is told of a record `r`. */
export const recordFacts = `r.id, r.name, p.id as "ownerId",
  (select coalesce(jsonb_object_agg(left(f.key, 80), left(f.value, 200)), '{}')
    from (select key, value from jsonb_each_text(r.fields) order by key limit ${mostFields}) f) as fields`;
/** SQL of its connection in use, and of its owner who works here. */
export const recordJoins = `join item c on c.id = r.connection_id and c.retired_at is null
  left join person p on p.login = r.owner_login and exists (
    select 1 from item i where i.id = p.id and i.retired_at is null)`;

/** SQL of the record a number belongs to; of several, the one read last. */
export function recordOfNumber(e164: string): string {
  return `select ${recordFacts}
    from record_number n join record r on r.id = n.record_id ${recordJoins}
    where n.e164 = ${e164} order by r.read_at desc, r.id limit 1`;
}

/** Null when nobody is known by the number. */
export async function recordByNumber(database: Knex, e164: string): Promise<RecordFacts | null> {
  const rows = await prepared<RecordFacts>(database, 'record-by-number', recordOfNumber('$1'), [e164]);
  return rows[0] ?? null;
}

export interface RecordView {
  id: string;
  externalId: string;
  name: string;
  owner: { login: string; personId: string | null; name: string | null } | null;
  fields: Record<string, string>;
  numbers: string[];
  readAt: string;
  connectionName: string;
  linkTemplate: string;
}

/** A record as we last read it. */
export async function getRecord(database: Knex, id: string): Promise<RecordView> {
  const row = await database('record as r')
    .join('connection as c', 'c.id', 'r.connection_id')
    .join('item as ci', 'ci.id', 'c.id')
    .leftJoin('person as p', 'p.login', 'r.owner_login')
    .leftJoin('item as pi', 'pi.id', 'p.id')
    .where('r.id', id)
    .first<
      | {
          id: string;
          external_id: string;
          name: string;
          owner_login: string | null;
          fields: Record<string, string>;
          read_at: Date;
          connection_name: string;
          link: string;
          person_id: string | null;
          person_name: string | null;
        }
      | undefined
    >(
      'r.id',
      'r.external_id',
      'r.name',
      'r.owner_login',
      'r.fields',
      'r.read_at',
      'ci.name as connection_name',
      'c.link',
      'p.id as person_id',
      'pi.name as person_name',
    );
  if (row === undefined) throw new Problem('notFound', 'There is no such record.');
  const numbers = await database('record_number').where({ record_id: id }).orderBy('e164').pluck('e164');
  return {
    id: row.id,
    externalId: row.external_id,
    name: row.name,
    owner:
      row.owner_login === null
        ? null
        : { login: row.owner_login, personId: row.person_id, name: row.person_name },
    fields: row.fields,
    numbers,
    readAt: row.read_at.toISOString(),
    connectionName: row.connection_name,
    linkTemplate: row.link,
  };
}

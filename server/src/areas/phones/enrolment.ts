import type { Knex } from 'knex';
import type { EmergencyAddress } from '@night-bell/core/model/emergency-address';
import type { Exchange } from '@night-bell/core/exchange/exchange';
import { Problem } from '../../http/problems.ts';
import { type SecretBox, tidyCode } from '../../security/secret-box.ts';
import { announceChange, authorOf } from '../../spine/items.ts';
import { changePhone, getPhone, phoneSnapshot, setUpOf } from './store.ts';

/** What only the person at the phone knows, and nobody has said yet. */
export type Missing = 'timeZone' | 'emergencyAddress';

export interface Enrolment {
  name: string;
  model: string;
  account: string;
  expiresAt: string;
  /** The set-up was fetched with this code; it cannot be again. */
  fetched: boolean;
  registered: boolean;
  missing: Missing[];
}

interface CodeRow {
  id: string;
  phone_id: string;
  person_id: string;
  expires_at: Date;
  used_at: Date | null;
}

/** How long after the set-up was fetched its page still says how the phone is. */
const afterwards = `interval '1 hour'`;

async function find(database: Knex, seal: SecretBox, code: string): Promise<CodeRow> {
  const row = await database('one_time_code as c')
    .join('item as p', 'p.id', 'c.person_id')
    .join('item as f', 'f.id', 'c.phone_id')
    .where({ purpose: 'enrolment', hash: seal.hash(tidyCode(code)) })
    .whereNull('p.retired_at')
    .whereNull('f.retired_at')
    .whereRaw(`c.expires_at > now() and (c.used_at is null or c.used_at > now() - ${afterwards})`)
    .first<CodeRow | undefined>('c.id', 'c.phone_id', 'c.person_id', 'c.expires_at', 'c.used_at');
  if (row === undefined)
    throw new Problem(
      'wrongSignIn',
      'This enrolment code is unknown, used or over. Your administrator can make a new one.',
    );
  return row;
}

export async function enrolmentOf(
  database: Knex,
  seal: SecretBox,
  code: string,
  exchange: Exchange | null,
): Promise<Enrolment> {
  const row = await find(database, seal, code);
  const phone = await getPhone(database, row.phone_id);
  const team = await database('person as p')
    .leftJoin('team as t', 't.id', 'p.team_id')
    .where('p.id', row.person_id)
    .first<{ address: EmergencyAddress | null } | undefined>('t.emergency_address as address');
  const missing: Missing[] = [
    ...(phone.home && phone.timeZone === null ? (['timeZone'] as const) : []),
    // In the house the team's address holds; at home it would send help to the wrong place.
    ...(phone.emergencyAddress === null && (phone.home || team?.address == null)
      ? (['emergencyAddress'] as const)
      : []),
  ];
  return {
    name: phone.personName,
    model: phone.model!,
    account: phone.account,
    expiresAt: row.expires_at.toISOString(),
    fetched: row.used_at !== null,
    registered: exchange?.view().phones.get(phone.id)?.registration === 'registered',
    missing,
  };
}

/** Keeps what the person said, each as soon as it is said: the guide can be left and gone on with. */
export async function answerEnrolment(
  trx: Knex.Transaction,
  seal: SecretBox,
  code: string,
  answers: { timeZone?: string; emergencyAddress?: EmergencyAddress },
): Promise<void> {
  const row = await find(trx, seal, code);
  if (row.used_at !== null)
    throw new Problem('notNow', 'The set-up was fetched already. Your administrator can change it now.');
  const phone = await getPhone(trx, row.phone_id);
  const draft = { ...phoneSnapshot(phone), ...answers };
  await changePhone(trx, phone.id, phone.version, draft, authorOf(row.person_id));
  await announceChange(trx);
}

/** Gives the set-up with its secret, once. */
export async function fetchSetUp(database: Knex, seal: SecretBox, code: string) {
  const [row] = await database
    .raw<{ rows: { sealed: string; phone_id: string }[] }>(
      `with used as (select c.id, c.sealed, c.phone_id from one_time_code c
         join item p on p.id = c.person_id and p.retired_at is null
         join item f on f.id = c.phone_id and f.retired_at is null
       where c.purpose = 'enrolment' and c.hash = ? and c.used_at is null and c.expires_at > now() for update of c)
     , spent as (update one_time_code set used_at = now(), sealed = null where id in (select id from used))
     select sealed, phone_id from used`,
      [seal.hash(tidyCode(code))],
    )
    .then((result) => result.rows);
  if (row === undefined)
    throw new Problem(
      'wrongSignIn',
      'This enrolment code is unknown, used or over. Make a new one on the phone.',
    );
  return { ...(await setUpOf(database, row.phone_id)), secret: seal.open(row.sealed) };
}

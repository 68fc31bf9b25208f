import type { Knex } from 'knex';
import type { PhoneKind } from '@night-bell/core/model/configuration';
import type { OutsideNumber } from '@night-bell/core/model/people.schema';
import { digestSecret } from '@night-bell/core/sip/digest';
import { Problem } from '../../http/problems.ts';
import { realm } from '../../live/registrar.ts';
import { oneTimeCode, registrationSecret, type Seal } from '../../security/seal.ts';
import { type Author, createItem, createItems, insertAll, newId } from '../../spine/items.ts';
import { insertCodes } from './codes.ts';

/** A phone of a person, in ring order. */
export interface PhoneView {
  id: string;
  kind: PhoneKind;
  /** SIP account; empty for kinds that do not register by SIP. */
  account: string;
  home: boolean;
  e164: string | null;
  trunkId: string | null;
}

/** Phones in use by person, each in ring order. */
export async function phonesByPerson(
  database: Knex,
  personId: string | null = null,
): Promise<Map<string, PhoneView[]>> {
  const rows = await database('phone as f')
    .join('item as i', 'i.id', 'f.id')
    .whereNull('i.retired_at')
    .modify((query) => {
      if (personId !== null) void query.where('f.person_id', personId);
    })
    .orderBy([{ column: 'f.person_id' }, { column: 'f.position' }, { column: 'f.id' }])
    .select<(PhoneView & { person_id: string })[]>(
      'f.person_id',
      'f.id',
      'f.kind',
      database.raw(`coalesce(f.account, '') as account`),
      'f.home',
      'f.e164',
      'f.trunk_id as trunkId',
    );
  const byPerson = new Map<string, PhoneView[]>();
  for (const { person_id, ...phone } of rows)
    byPerson.set(person_id, [...(byPerson.get(person_id) ?? []), phone]);
  return byPerson;
}

interface PhoneOwner {
  personId: string;
  name: string;
}

/** What each kind is called in lists: after its person. */
export function phoneName(kind: PhoneKind, person: string): string {
  return { softphone: `${person}'s softphone`, browser: `${person}'s page`, outside: `${person}, outside` }[
    kind
  ];
}

async function insertPhone(
  trx: Knex.Transaction,
  owner: PhoneOwner,
  phone: { kind: PhoneKind; position: number } & Record<string, unknown>,
  author: Author,
): Promise<string> {
  const id = newId();
  const name = phoneName(phone.kind, owner.name);
  await createItem(trx, { id, kind: 'phone', name, after: phone, references: [] }, author);
  await trx('phone').insert({ id, person_id: owner.personId, ...phone });
  return id;
}

/** Softphones with fresh accounts, secrets and enrolment codes, in the order of their owners. */
export async function createSoftphones(
  trx: Knex.Transaction,
  seal: Seal,
  owners: (PhoneOwner & { account: string; home: boolean })[],
  author: Author,
): Promise<{ account: string; registrationSecret: string; enrolmentCode: string }[]> {
  const taken = new Set<string>(await trx('phone').whereNotNull('account').pluck('account'));
  const phones = owners.map((owner) => {
    const account = freeAccount(taken, owner.account);
    taken.add(account);
    const columns = { kind: 'softphone' as const, position: 1, account, home: owner.home };
    return { id: newId(), owner, columns, secret: registrationSecret(), enrolmentCode: oneTimeCode() };
  });
  await createItems(
    trx,
    phones.map(({ id, owner, columns }) => ({
      id,
      kind: 'phone',
      name: phoneName('softphone', owner.name),
      after: columns,
      references: [],
    })),
    author,
  );
  await insertAll(
    trx,
    'phone',
    phones.map(({ id, owner, columns, secret }) => ({
      id,
      person_id: owner.personId,
      ...columns,
      ha1_sealed: sealedDigest(seal, columns.account, secret),
    })),
  );
  await insertCodes(
    trx,
    seal,
    phones.map(({ id, owner, secret, enrolmentCode }) => ({
      purpose: 'enrolment',
      code: enrolmentCode,
      personId: owner.personId,
      phoneId: id,
      secret,
    })),
  );
  return phones.map(({ columns, secret, enrolmentCode }) => ({
    account: columns.account,
    registrationSecret: secret,
    enrolmentCode,
  }));
}

/** Makes, changes or ends the outside number of a person. */
export async function setOutsideNumber(
  trx: Knex.Transaction,
  owner: PhoneOwner,
  outside: OutsideNumber | null,
  author: Author,
): Promise<void> {
  const known = (await phonesByPerson(trx, owner.personId)).get(owner.personId) ?? [];
  const present = known.find((phone) => phone.kind === 'outside');
  if (outside === null) {
    if (present !== undefined)
      await trx('item').where({ id: present.id }).update({ retired_at: trx.fn.now() });
    return;
  }
  const trunk = await trx('item')
    .where({ id: outside.trunkId, kind: 'trunk' })
    .whereNull('retired_at')
    .first('id');
  if (trunk === undefined)
    throw Problem.field('/outsideNumber/trunkId', 'That trunk does not exist any more. Choose another.');
  const columns = { e164: outside.e164, trunk_id: outside.trunkId };
  if (present === undefined)
    await insertPhone(trx, owner, { kind: 'outside', position: 2, ...columns }, author);
  else await trx('phone').where({ id: present.id }).update(columns);
}

/** The phone that a person's own page plays, made when it is first wanted. */
export async function browserPhone(
  trx: Knex.Transaction,
  owner: PhoneOwner,
  author: Author,
): Promise<string> {
  const known = (await phonesByPerson(trx, owner.personId)).get(owner.personId) ?? [];
  const present = known.find((phone) => phone.kind === 'browser');
  return present?.id ?? insertPhone(trx, owner, { kind: 'browser', position: 3 }, author);
}

/** A fresh registration secret with the enrolment code that fetches it. Earlier ones stop working. */
export async function newPhoneSecret(
  trx: Knex.Transaction,
  seal: Seal,
  phone: { id: string; personId: string; account: string },
): Promise<{ registrationSecret: string; enrolmentCode: string }> {
  const secret = registrationSecret();
  await trx('phone')
    .where({ id: phone.id })
    .update({ ha1_sealed: sealedDigest(seal, phone.account, secret) });
  await trx('one_time_code')
    .where({ phone_id: phone.id, purpose: 'enrolment' })
    .whereNull('used_at')
    .update({ used_at: trx.fn.now(), sealed: null });
  const enrolmentCode = oneTimeCode();
  const code = { purpose: 'enrolment' as const, code: enrolmentCode, personId: phone.personId };
  await insertCodes(trx, seal, [{ ...code, phoneId: phone.id, secret }]);
  return { registrationSecret: secret, enrolmentCode };
}

function sealedDigest(seal: Seal, account: string, secret: string): string {
  return seal.seal(JSON.stringify(digestSecret(account, realm, secret)));
}

function freeAccount(taken: ReadonlySet<string>, wanted: string): string {
  for (let n = 1; ; n++) {
    const account = n === 1 ? wanted : `${wanted}-${n}`;
    if (!taken.has(account)) return account;
  }
}

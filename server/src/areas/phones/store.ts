import type { Knex } from 'knex';
import { isZone } from '@night-bell/core/hours/zone';
import {
  type Codec,
  deviceModel,
  type ModelId,
  type PhoneKind,
  registersBySip,
  type Transport,
} from '@night-bell/core/phones/catalogue';
import type { LineKey } from '@night-bell/core/phones/line-keys';
import type { EmergencyAddress } from '@night-bell/core/model/emergency-address';
import type { OutsideNumber } from '@night-bell/core/model/people.schema';
import type { PhoneDraft } from '@night-bell/core/model/phones.schema';
import { Problem } from '../../http/problems.ts';
import { realm } from '../../live/registrar.ts';
import {
  announceChange,
  type Author,
  changeItem,
  checkInUse,
  createItem,
  createItems,
  insertAll,
  newId,
  retireItem,
} from '../../spine/items.ts';

/** A phone of a person, in ring order. Settings of devices are of those that register by SIP. */
export interface PhoneView {
  id: string;
  version: number;
  kind: PhoneKind;
  model: ModelId | null;
  /** SIP account; empty for kinds that do not register by SIP. */
  account: string;
  transport: Transport;
  codecs: Codec[];
  timeZone: string | null;
  numberId: string | null;
  dialTrunkId: string | null;
  home: boolean;
  emergencyAddress: EmergencyAddress | null;
  lineKeys: LineKey[];
  e164: string | null;
  trunkId: string | null;
}

/** Phones in use by person, each in ring order. */
export async function phonesByPerson(
  database: Knex,
  people: readonly string[] | null = null,
): Promise<Map<string, PhoneView[]>> {
  const rows = await database('phone as f')
    .join('item as i', 'i.id', 'f.id')
    .whereNull('i.retired_at')
    .modify((query) => {
      if (people !== null) void query.whereIn('f.person_id', people);
    })
    .orderBy([{ column: 'f.person_id' }, { column: 'f.position' }, { column: 'f.id' }])
    .select<(PhoneView & { person_id: string })[]>(
      'f.person_id',
      'f.id',
      'i.version',
      'f.kind',
      'f.model',
      database.raw(`coalesce(f.account, '') as account`),
      'f.transport',
      'f.codecs',
      'f.time_zone as timeZone',
      'f.number_id as numberId',
      'f.dial_trunk_id as dialTrunkId',
      'f.home',
      'f.emergency_address as emergencyAddress',
      'f.line_keys as lineKeys',
      'f.e164',
      'f.trunk_id as trunkId',
    );
  const byPerson = new Map<string, PhoneView[]>();
  for (const { person_id, ...phone } of rows) {
    const phones = byPerson.get(person_id);
    if (phones === undefined) byPerson.set(person_id, [phone]);
    else phones.push(phone);
  }
  return byPerson;
}

export interface OwnedPhone extends PhoneView {
  personId: string;
  personName: string;
}

export async function getPhone(database: Knex, id: string): Promise<OwnedPhone> {
  const row = await database('phone as f')
    .join('item as i', 'i.id', 'f.id')
    .join('item as p', 'p.id', 'f.person_id')
    .where('f.id', id)
    .whereNull('i.retired_at')
    .first<{ personId: string; personName: string } | undefined>(
      'f.person_id as personId',
      'p.name as personName',
    );
  const phone =
    row === undefined
      ? undefined
      : (await phonesByPerson(database, [row.personId])).get(row.personId)?.find((each) => each.id === id);
  if (row === undefined || phone === undefined) throw new Problem('notFound', 'There is no such phone.');
  return { ...phone, ...row };
}

/** The fields that history keeps and take-back restores. */
export function phoneSnapshot(phone: Omit<PhoneDraft, 'model'> & { model: ModelId | null }): PhoneDraft {
  const { model, transport, codecs, timeZone, numberId, dialTrunkId, home } = phone;
  const { emergencyAddress, lineKeys } = phone;
  return {
    ...{ model: model!, transport, codecs, timeZone, numberId, dialTrunkId, home },
    ...{ emergencyAddress, lineKeys },
  };
}

interface PhoneOwner {
  personId: string;
  name: string;
}

/** What each kind is called in lists: after its person. */
export function phoneName(kind: PhoneKind, person: string): string {
  const things = { softphone: 'softphone', desk: 'desk phone', cordless: 'cordless phone', browser: 'page' };
  return kind === 'outside' ? `${person}, outside` : `${person}'s ${things[kind]}`;
}

/** Devices with fresh accounts, in the order given. They cannot register before they have a secret. */
export async function createPhones(
  trx: Knex.Transaction,
  wanted: (PhoneOwner & { account: string; draft: PhoneDraft })[],
  author: Author,
): Promise<{ id: string; personId: string; account: string }[]> {
  const taken = new Set<string>(await trx('phone').whereNotNull('account').pluck<string[]>('account'));
  const positions = await lastPositions(
    trx,
    wanted.map(({ personId }) => personId),
  );
  const phones = wanted.map(({ personId, name, account: proposal, draft }) => {
    const account = freeAccount(taken, proposal);
    taken.add(account);
    const position = (positions.get(personId) ?? 0) + 1;
    positions.set(personId, position);
    const { kind } = deviceModel(draft.model)!;
    return { id: newId(), personId, name: phoneName(kind, name), account, kind, position, draft };
  });
  for (const { draft, personId } of phones) await checkPhone(trx, draft, personId);
  await createItems(
    trx,
    phones.map(({ id, name, draft }) => ({
      id,
      kind: 'phone',
      name,
      after: phoneSnapshot(draft),
      references: referencesOf(draft),
    })),
    author,
  );
  await insertAll(
    trx,
    'phone',
    phones.map(({ id, personId, account, kind, position, draft }) => ({
      id,
      person_id: personId,
      account,
      kind,
      position,
      ...columnsOf(draft),
    })),
  );
  return phones.map(({ id, personId, account }) => ({ id, personId, account }));
}

export async function changePhone(
  trx: Knex.Transaction,
  id: string,
  version: number,
  draft: PhoneDraft,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getPhone(trx, id);
  if (!registersBySip(current.kind))
    throw new Problem('notNow', 'Outside numbers and pages have no settings of a device.');
  await checkPhone(trx, draft, current.personId);
  const { kind } = deviceModel(draft.model)!;
  await changeItem(
    trx,
    {
      id,
      name: phoneName(kind, current.personName),
      before: phoneSnapshot(current),
      after: phoneSnapshot(draft),
      references: referencesOf(draft),
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  await trx('phone')
    .where({ id })
    .update({ kind, ...columnsOf(draft) });
  await announceChange(trx);
}

export async function retirePhone(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  await getPhone(trx, id);
  await retireItem(trx, id, version, author);
  await announceChange(trx);
}

/** All phones of the person, in the order in which they are tried. */
export async function orderPhones(trx: Knex.Transaction, personId: string, ids: string[]): Promise<void> {
  const known = (await phonesByPerson(trx, [personId])).get(personId) ?? [];
  if (
    known
      .map((phone) => phone.id)
      .sort()
      .join() !== [...ids].sort().join()
  )
    throw Problem.field('/ids', 'The phones have changed meanwhile. Look again.', 'notNow');
  for (const [index, id] of ids.entries())
    await trx('phone')
      .where({ id })
      .update({ position: index + 1 });
  await announceChange(trx);
}

async function checkPhone(trx: Knex, draft: PhoneDraft, personId: string): Promise<void> {
  const model = deviceModel(draft.model)!;
  if (!model.transports.includes(draft.transport))
    throw Problem.field(
      '/transport',
      `A ${model.name.toLowerCase()} speaks ${model.transports.map((each) => each.toUpperCase()).join(' or ')} only.`,
    );
  if (draft.timeZone !== null && !isZone(draft.timeZone))
    throw Problem.field('/timeZone', 'That time zone is not known. Choose one of the list.');
  await checkInUse(trx, draft.numberId, 'number', '/numberId');
  await checkInUse(trx, draft.dialTrunkId, 'trunk', '/dialTrunkId');
  for (const [index, key] of draft.lineKeys.entries()) {
    const path = `/lineKeys/${index}`;
    if (key.position > model.lineKeys)
      throw Problem.field(
        `${path}/position`,
        model.lineKeys === 0
          ? `A ${model.name.toLowerCase()} has no keys to programme.`
          : `A ${model.name.toLowerCase()} has no key ${key.position}.`,
      );
    if (key.personId === personId)
      throw Problem.field(`${path}/personId`, 'This is whose phone it is. A key watches somebody else.');
    await checkInUse(trx, key.personId, 'person', `${path}/personId`);
  }
}

function referencesOf({ numberId, dialTrunkId, lineKeys }: PhoneDraft) {
  const watched = [...new Set(lineKeys.map((key) => key.personId))];
  return [
    ...(numberId === null ? [] : [{ to: numberId, how: 'caller ID' }]),
    ...(dialTrunkId === null ? [] : [{ to: dialTrunkId, how: 'dials out over it' }]),
    ...watched.map((to) => ({ to, how: 'line key' })),
  ];
}

function columnsOf(draft: PhoneDraft) {
  return {
    model: draft.model,
    transport: draft.transport,
    codecs: draft.codecs,
    time_zone: draft.timeZone,
    number_id: draft.numberId,
    dial_trunk_id: draft.dialTrunkId,
    home: draft.home,
    emergency_address: draft.emergencyAddress === null ? null : JSON.stringify(draft.emergencyAddress),
    line_keys: JSON.stringify([...draft.lineKeys].sort((one, other) => one.position - other.position)),
  };
}

async function lastPositions(trx: Knex, people: string[]): Promise<Map<string, number>> {
  const rows = await trx('phone as f')
    .join('item as i', 'i.id', 'f.id')
    .whereIn('f.person_id', people)
    .whereNull('i.retired_at')
    .groupBy('f.person_id')
    .select<{ person_id: string; last: number }[]>('f.person_id', trx.raw('max(f.position) as last'));
  return new Map(rows.map(({ person_id, last }) => [person_id, last]));
}

async function insertPhone(
  trx: Knex.Transaction,
  owner: PhoneOwner,
  phone: { kind: PhoneKind } & Record<string, unknown>,
  author: Author,
): Promise<string> {
  const id = newId();
  const name = phoneName(phone.kind, owner.name);
  const position = ((await lastPositions(trx, [owner.personId])).get(owner.personId) ?? 0) + 1;
  await createItem(trx, { id, kind: 'phone', name, after: phone, references: [] }, author);
  await trx('phone').insert({ id, person_id: owner.personId, position, ...phone });
  return id;
}

/** Makes, changes or ends the outside number of a person. */
export async function setOutsideNumber(
  trx: Knex.Transaction,
  owner: PhoneOwner,
  outside: OutsideNumber | null,
  author: Author,
): Promise<void> {
  const known = (await phonesByPerson(trx, [owner.personId])).get(owner.personId) ?? [];
  const present = known.find((phone) => phone.kind === 'outside');
  if (outside === null) {
    if (present !== undefined)
      await trx('item').where({ id: present.id }).update({ retired_at: trx.fn.now() });
    return;
  }
  await checkInUse(trx, outside.trunkId, 'trunk', '/outsideNumber/trunkId');
  const columns = { e164: outside.e164, trunk_id: outside.trunkId };
  if (present === undefined) await insertPhone(trx, owner, { kind: 'outside', ...columns }, author);
  else await trx('phone').where({ id: present.id }).update(columns);
}

/** The phone that a person's own page plays, made when it is first wanted. */
export async function browserPhone(
  trx: Knex.Transaction,
  owner: PhoneOwner,
  author: Author,
): Promise<string> {
  const known = (await phonesByPerson(trx, [owner.personId])).get(owner.personId) ?? [];
  const present = known.find((phone) => phone.kind === 'browser');
  return present?.id ?? insertPhone(trx, owner, { kind: 'browser' }, author);
}

function freeAccount(taken: ReadonlySet<string>, wanted: string): string {
  for (let n = 1; ; n++) {
    const account = n === 1 ? wanted : `${wanted}-${n}`;
    if (!taken.has(account)) return account;
  }
}

/** The set-up of a device as it fetches it, without the secret. */
export async function setUpOf(database: Knex, phoneId: string) {
  const phone = await getPhone(database, phoneId);
  return {
    account: phone.account,
    domain: realm,
    name: phone.personName,
    transport: phone.transport,
    codecs: phone.codecs,
    timeZone: phone.timeZone,
    home: phone.home,
    model: phone.model!,
  };
}

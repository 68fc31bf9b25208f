import type { Knex } from 'knex';
import { type NoAnswerStep, sameDestination } from '@night-bell/core/model/destination';
import type {
  Elsewhere,
  OutsideNumber,
  PersonChange,
  SkillLevel,
} from '@night-bell/core/model/people.schema';
import type { Role } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import type { Sessions } from '../../security/sessions.ts';
import {
  announceChange,
  type Author,
  changeItem,
  checkInUse,
  insertAll,
  reactivateItem,
  type Reference,
  refuseWhenUsed,
  retireItem,
} from '../../spine/items.ts';
import { checkDestination, destinationReference } from '../../spine/destinations.ts';
import { moveExtension } from '../../spine/extensions.ts';
import { type PhoneView, phoneName, phonesByPerson, setOutsideNumber } from '../phones/store.ts';
import { checkTeam } from '../teams/store.ts';
import { queuesByMember } from './people.queries.ts';

export interface PersonView {
  id: string;
  version: number;
  retired: boolean;
  name: string;
  login: string;
  role: Role;
  teamId: string | null;
  teamName: string | null;
  extension: string;
  callLimit: number;
  ringSeconds: number;
  signInWithPhone: boolean;
  wrapUpSeconds: number | null;
  startAway: boolean;
  answerBySelf: boolean;
  elsewhere: Elsewhere;
  skills: SkillLevel[];
  looksAfter: string[];
  hasOwnPassword: boolean;
  mail: string | null;
  /** What a call straight to them does, in this order, when nobody lifts; then their own voicemail. */
  noAnswer: NoAnswerStep[];
  outsideNumber: OutsideNumber | null;
  phones: PhoneView[];
  voicemailBoxId: string | null;
  queues: { id: string; name: string }[];
}

/** The fields that history keeps and take-back restores. */
export function personSnapshot(person: PersonChange): PersonChange {
  const { name, login, extension, role, teamId, callLimit, ringSeconds, signInWithPhone } = person;
  const { wrapUpSeconds, startAway, answerBySelf, elsewhere, skills, looksAfter } = person;
  const { mail, noAnswer, outsideNumber } = person;
  return {
    name,
    login,
    extension,
    role,
    teamId,
    callLimit,
    ringSeconds,
    signInWithPhone,
    wrapUpSeconds,
    startAway,
    answerBySelf,
    elsewhere,
    skills,
    looksAfter,
    mail,
    noAnswer,
    outsideNumber,
  };
}

export function personReferences({
  teamId,
  skills,
  looksAfter,
  noAnswer,
}: Pick<PersonChange, 'teamId' | 'skills' | 'looksAfter' | 'noAnswer'>): Reference[] {
  return [
    ...(teamId === null ? [] : [{ to: teamId, how: 'team' }]),
    ...skills.map(({ skillId }) => ({ to: skillId, how: 'skill' })),
    ...looksAfter.map((to) => ({ to, how: 'looked after' })),
    ...noAnswer.flatMap((step) =>
      step.kind === 'otherPhones' ? [] : destinationReference(step, 'when nobody lifts'),
    ),
  ];
}

/** Skills and teams looked after, written whole. */
export async function writeAbilities(
  trx: Knex.Transaction,
  people: ({ id: string } & Pick<PersonChange, 'skills' | 'looksAfter'>)[],
): Promise<void> {
  for (const skillId of new Set(people.flatMap((each) => each.skills.map((skill) => skill.skillId))))
    await checkInUse(trx, skillId, 'skill', '/skills');
  for (const teamId of new Set(people.flatMap((each) => each.looksAfter)))
    await checkInUse(trx, teamId, 'team', '/looksAfter');
  const ids = people.map(({ id }) => id);
  await trx('person_skill').whereIn('person_id', ids).delete();
  await trx('supervised_team').whereIn('person_id', ids).delete();
  await insertAll(
    trx,
    'person_skill',
    people.flatMap(({ id, skills }) =>
      skills.map(({ skillId, level }) => ({ person_id: id, skill_id: skillId, level })),
    ),
  );
  await insertAll(
    trx,
    'supervised_team',
    people.flatMap(({ id, looksAfter }) => looksAfter.map((team) => ({ person_id: id, team_id: team }))),
  );
}

/** Everybody, by extension; or the one with this id. */
export async function listPeople(database: Knex, id?: string): Promise<PersonView[]> {
  const rows = await database('person as p')
    .join('item as i', 'i.id', 'p.id')
    .leftJoin('item as t', 't.id', 'p.team_id')
    .leftJoin('extension as e', 'e.item_id', 'p.id')
    .leftJoin('voicemail_box as v', 'v.owner_id', 'p.id')
    .leftJoin('credential as c', 'c.person_id', 'p.id')
    .modify((query) => {
      if (id !== undefined) void query.where('p.id', id);
    })
    .orderByRaw('length(e.digits), e.digits, i.name, p.id')
    .select<PersonRow[]>(
      'p.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'p.login',
      'p.role',
      'p.team_id as teamId',
      't.name as teamName',
      database.raw(`coalesce(e.digits, '') as extension`),
      'p.call_limit as callLimit',
      'p.ring_seconds as ringSeconds',
      'p.sign_in_with_phone as signInWithPhone',
      'p.wrap_up_seconds as wrapUpSeconds',
      'p.start_away as startAway',
      'p.answer_by_self as answerBySelf',
      'p.elsewhere',
      'p.mail',
      'p.no_answer as noAnswer',
      database.raw('c.password_hash is not null as "hasOwnPassword"'),
      'v.id as voicemailBoxId',
    );
  const few = id === undefined ? null : rows.map((row) => row.id);
  const teams = rows.flatMap((row) => row.teamId ?? []);
  const queues = await queuesByMember(database, few === null ? null : [...few, ...teams]);
  const phones = await phonesByPerson(database, few);
  const skills = await skillsByPerson(database, few);
  const looksAfter = await teamsLookedAfter(database, few);
  return rows.map((row) => ({
    ...row,
    skills: skills.get(row.id) ?? [],
    looksAfter: looksAfter.get(row.id) ?? [],
    ...reached(phones.get(row.id) ?? []),
    queues: row.retired ? [] : [...(queues.get(row.id) ?? []), ...(queues.get(row.teamId ?? '') ?? [])],
  }));
}

type PersonRow = Omit<PersonView, 'queues' | 'phones' | 'outsideNumber' | 'skills' | 'looksAfter'>;

/** Read at once for all: asked for within each row they would be the dearest part of a list of everybody. */
export async function skillsByPerson(
  database: Knex,
  people: readonly string[] | null,
): Promise<Map<string, SkillLevel[]>> {
  const rows = await database('person_skill as k')
    .join('item as n', 'n.id', 'k.skill_id')
    .modify((query) => {
      if (people !== null) void query.whereIn('k.person_id', people);
    })
    .orderBy([{ column: 'n.name' }, { column: 'k.skill_id' }])
    .select<(SkillLevel & { personId: string })[]>(
      'k.person_id as personId',
      'k.skill_id as skillId',
      'k.level',
    );
  return grouped(rows.map(({ personId, ...skill }) => [personId, skill]));
}

async function teamsLookedAfter(
  database: Knex,
  people: readonly string[] | null,
): Promise<Map<string, string[]>> {
  const rows = await database('supervised_team')
    .modify((query) => {
      if (people !== null) void query.whereIn('person_id', people);
    })
    .orderBy('team_id')
    .select<{ personId: string; teamId: string }[]>('person_id as personId', 'team_id as teamId');
  return grouped(rows.map(({ personId, teamId }) => [personId, teamId]));
}

function grouped<Value>(pairs: readonly (readonly [string, Value])[]): Map<string, Value[]> {
  const groups = new Map<string, Value[]>();
  for (const [key, value] of pairs) {
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [value]);
    else group.push(value);
  }
  return groups;
}

function reached(phones: PhoneView[]): Pick<PersonView, 'phones' | 'outsideNumber'> {
  const outside = phones.find((phone) => phone.kind === 'outside');
  return {
    phones,
    outsideNumber:
      outside === undefined || outside.e164 === null || outside.trunkId === null
        ? null
        : { e164: outside.e164, trunkId: outside.trunkId },
  };
}

export async function getPerson(database: Knex, id: string): Promise<PersonView> {
  const [person] = await listPeople(database, id);
  if (person === undefined) throw new Problem('notFound', 'There is no such person.');
  return person;
}

/** Steps that stood there before may name what is deactivated by now; new ones may not. */
export async function checkNoAnswer(
  trx: Knex.Transaction,
  id: string,
  after: NoAnswerStep[],
  before: NoAnswerStep[] = [],
  at = '',
): Promise<void> {
  for (const [index, step] of after.entries()) {
    const path = `${at}/noAnswer/${index}`;
    if (step.kind === 'otherPhones') continue;
    if (step.kind === 'person' && step.id === id)
      throw Problem.field(path, 'Calls cannot go back to the person who did not lift.');
    const stood = before.some((each) => each.kind !== 'otherPhones' && sameDestination(each, step));
    if (!stood) await checkDestination(trx, step, path);
  }
}

/** `by` may be null for a take-back done by the system's own author. */
export async function changePerson(
  trx: Knex.Transaction,
  id: string,
  version: number,
  after: PersonChange,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getPerson(trx, id);
  if (current.role === 'administrator' && after.role !== 'administrator')
    await refuseLastAdministrator(trx, id);
  if (author.personId === id && after.role !== current.role) {
    throw Problem.field('/role', 'Nobody changes their own role. Ask another administrator.', 'notAllowed');
  }
  if (after.login !== current.login) {
    const other = await trx('person').where({ login: after.login }).first('id');
    if (other !== undefined)
      throw Problem.field('/login', `${after.login} is somebody else's login.`, 'taken');
  }
  if (after.extension !== current.extension) await moveExtension(trx, id, after.extension);
  if (after.teamId !== null && after.teamId !== current.teamId) await checkTeam(trx, after.teamId);
  await checkNoAnswer(trx, id, after.noAnswer, current.noAnswer);
  await changeItem(
    trx,
    {
      id,
      name: after.name,
      before: personSnapshot(current),
      after: personSnapshot(after),
      references: personReferences(after),
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  await trx('person')
    .where({ id })
    .update({
      login: after.login,
      role: after.role,
      team_id: after.teamId,
      call_limit: after.callLimit,
      ring_seconds: after.ringSeconds,
      sign_in_with_phone: after.signInWithPhone,
      wrap_up_seconds: after.wrapUpSeconds,
      start_away: after.startAway,
      answer_by_self: after.answerBySelf,
      elsewhere: after.elsewhere,
      mail: after.mail,
      no_answer: JSON.stringify(after.noAnswer),
    });
  await writeAbilities(trx, [{ id, ...after }]);
  if (after.name !== current.name) {
    await trx('item')
      .where({ id: current.voicemailBoxId! })
      .update({ name: `${after.name}'s voicemail` });
    for (const phone of current.phones)
      await trx('item')
        .where({ id: phone.id })
        .update({ name: phoneName(phone.kind, after.name) });
  }
  await setOutsideNumber(trx, { personId: id, name: after.name }, after.outsideNumber, author);
  await announceChange(trx);
}

async function refuseLastAdministrator(trx: Knex.Transaction, id: string): Promise<void> {
  const others = await trx('person as p')
    .join('item as i', 'i.id', 'p.id')
    .where('p.role', 'administrator')
    .whereNull('i.retired_at')
    .whereNot('p.id', id)
    .first('p.id');
  if (others === undefined) {
    throw new Problem(
      'notNow',
      'This is the last administrator. Make another one first, or nobody could open the set-up.',
    );
  }
}

export async function retirePerson(
  trx: Knex.Transaction,
  sessions: Sessions,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const person = await getPerson(trx, id);
  if (author.personId === id)
    throw new Problem('notNow', 'Nobody deactivates themselves. Ask another administrator.');
  if (person.role === 'administrator') await refuseLastAdministrator(trx, id);
  await refuseWhenUsed(trx, id, person.name);
  if (person.voicemailBoxId !== null)
    await refuseWhenUsed(trx, person.voicemailBoxId, `${person.name}'s voicemail`);
  await retireItem(trx, id, version, author);
  await announceChange(trx);
  await sessions.endAllOf(id);
}

export async function reactivatePerson(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  await getPerson(trx, id);
  await reactivateItem(trx, id, version, author);
  await announceChange(trx);
}

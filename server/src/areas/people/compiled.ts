import type { Knex } from 'knex';
import { addressWords, type EmergencyAddress } from '@night-bell/core/model/emergency-address';
import type { PersonItem, PhoneItem } from '@night-bell/core/model/configuration';
import { skillsByPerson } from './store.ts';

type PersonRow = Omit<PersonItem, 'skills'>;

interface PhoneRow extends Omit<PhoneItem, 'emergencyAddress' | 'callerId'> {
  /** Of the number it shows. */
  shown: string | null;
  dialTeams: string[] | null;
  teamId: string | null;
  ownAddress: EmergencyAddress | null;
  teamAddress: EmergencyAddress | null;
}

/** People in use as the exchange reads them: no more columns than it needs, since it reads everybody. */
export async function compiledPeople(database: Knex): Promise<PersonItem[]> {
  const skills = await skillsByPerson(database, null);
  const rows = await database('person as p')
    .join('item as i', 'i.id', 'p.id')
    .leftJoin('extension as e', 'e.item_id', 'p.id')
    .leftJoin('voicemail_box as v', 'v.owner_id', 'p.id')
    .whereNull('i.retired_at')
    .orderByRaw('length(e.digits), e.digits, i.name, p.id')
    .select<PersonRow[]>(
      ...['p.id', 'i.name', 'p.team_id as teamId', 'e.digits as extension', 'p.call_limit as callLimit'],
      ...['p.ring_seconds as ringSeconds', 'p.sign_in_with_phone as signInWithPhone'],
      ...['p.start_away as startAway', 'p.answer_by_self as answerBySelf'],
      ...['p.wrap_up_seconds as wrapUpSeconds', 'p.no_answer as noAnswer', 'v.id as voicemailBoxId'],
    );
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    teamId: row.teamId,
    extension: row.extension,
    callLimit: row.callLimit,
    ringSeconds: row.ringSeconds,
    signInWithPhone: row.signInWithPhone,
    startAway: row.startAway,
    answerBySelf: row.answerBySelf,
    wrapUpSeconds: row.wrapUpSeconds,
    skills: Object.fromEntries((skills.get(row.id) ?? []).map(({ skillId, level }) => [skillId, level])),
    noAnswer: row.noAnswer,
    voicemailBoxId: row.voicemailBoxId,
  }));
}

/** Their phones, each with what it shows and where it stands. */
export async function compiledPhones(database: Knex): Promise<PhoneItem[]> {
  const rows = await database('phone as f')
    .join('item as i', 'i.id', 'f.id')
    .join('person as p', 'p.id', 'f.person_id')
    .join('item as pi', 'pi.id', 'p.id')
    .leftJoin('extension as e', 'e.item_id', 'p.id')
    .leftJoin('team as t', 't.id', 'p.team_id')
    .leftJoin('number as n', 'n.id', 'f.number_id')
    .leftJoin('item as ni', 'ni.id', 'n.id')
    .whereNull('i.retired_at')
    .whereNull('pi.retired_at')
    .orderByRaw('length(e.digits), e.digits, pi.name, p.id, f.position, f.id')
    .select<PhoneRow[]>(
      ...['f.id', 'f.person_id as personId', 'f.kind', 'f.home', 'f.e164', 'f.trunk_id as trunkId'],
      database.raw(`coalesce(f.account, '') as account`),
      ...['f.dial_trunk_id as dialTrunkId', 'p.team_id as teamId', 'n.dial_teams as dialTeams'],
      database.raw('case when ni.retired_at is null then n.e164 end as shown'),
      ...['f.emergency_address as ownAddress', 't.emergency_address as teamAddress'],
    );
  return rows.map((row) => ({
    id: row.id,
    personId: row.personId,
    kind: row.kind,
    account: row.account,
    home: row.home,
    e164: row.e164,
    trunkId: row.trunkId,
    callerId: shownBy(row),
    dialTrunkId: row.dialTrunkId,
    emergencyAddress: helpAt(row.ownAddress, row.home ? null : row.teamAddress),
  }));
}

/** A number is shown only by those who may. */
function shownBy({ shown, dialTeams, teamId }: PhoneRow): string | null {
  const teams = dialTeams ?? [];
  return teams.length === 0 || (teamId !== null && teams.includes(teamId)) ? shown : null;
}

/** In the house the team's address holds; outside it would send help to the wrong place. */
function helpAt(own: EmergencyAddress | null, team: EmergencyAddress | null): string | null {
  const address = own ?? team;
  return address === null ? null : addressWords(address);
}

import type { Knex } from 'knex';
import type { EmergencyAddress } from '@night-bell/core/model/emergency-address';
import { Problem } from '../../http/problems.ts';
import {
  announceChange,
  type Author,
  changeItem,
  createItem,
  newId,
  refuseSameName,
  refuseWhenUsed,
  retireItem,
} from '../../spine/items.ts';

export interface TeamDraft {
  name: string;
  /** Where help is sent for phones of this team that have no address of their own. */
  emergencyAddress?: EmergencyAddress | null;
}

export interface TeamView {
  id: string;
  version: number;
  name: string;
  people: number;
  emergencyAddress: EmergencyAddress | null;
}

export async function listTeams(database: Knex): Promise<TeamView[]> {
  return database('item as i')
    .where('i.kind', 'team')
    .whereNull('i.retired_at')
    .join('team as t', 't.id', 'i.id')
    .orderBy([{ column: 'i.name' }, { column: 'i.id' }])
    .select<TeamView[]>(
      'i.id',
      'i.version',
      'i.name',
      't.emergency_address as emergencyAddress',
      database.raw(
        `(select count(*)::int from listed l where l.team_id = i.id and l.kind = 'person' and not l.retired) as people`,
      ),
    );
}

export async function getTeam(database: Knex, id: string): Promise<TeamView> {
  const team = (await listTeams(database)).find((each) => each.id === id);
  if (team === undefined) throw new Problem('notFound', 'There is no such team.');
  return team;
}

export async function createTeam(trx: Knex.Transaction, name: string, author: Author): Promise<string> {
  await refuseSameName(trx, 'team', name, null);
  const id = newId();
  await createItem(trx, { id, kind: 'team', name, after: { name }, references: [] }, author);
  await trx('team').insert({ id });
  return id;
}

export async function changeTeam(
  trx: Knex.Transaction,
  id: string,
  version: number,
  { name, emergencyAddress = null }: TeamDraft,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getTeam(trx, id);
  await refuseSameName(trx, 'team', name, id);
  await changeItem(
    trx,
    {
      id,
      name,
      before: { name: current.name, emergencyAddress: current.emergencyAddress },
      after: { name, emergencyAddress },
      references: [],
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  await trx('team')
    .where({ id })
    .update({ emergency_address: emergencyAddress === null ? null : JSON.stringify(emergencyAddress) });
  await announceChange(trx);
}

export async function retireTeam(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const team = await getTeam(trx, id);
  if (team.people > 0)
    throw new Problem('inUse', `${team.people} people are in ${team.name}. Move them to another team first.`);
  await refuseWhenUsed(trx, id, team.name);
  await retireItem(trx, id, version, author);
}

export async function checkTeam(database: Knex, teamId: string): Promise<void> {
  const row = await database('item').where({ id: teamId, kind: 'team' }).whereNull('retired_at').first('id');
  if (row === undefined) throw Problem.field('/teamId', 'That team does not exist any more. Choose another.');
}

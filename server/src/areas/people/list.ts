import type { Knex } from 'knex';
import {
  checkPeople,
  type CheckedPerson,
  type ListColumn,
  matchPersonColumns,
  mostPeople,
  type PeopleKnown,
  personOfRow,
  type PersonRow,
  personRows,
} from '@night-bell/core/model/people-list';
import { Problem } from '../../http/problems.ts';
import type { SecretBox } from '../../security/secret-box.ts';
import type { Author } from '../../spine/items.ts';
import { readTable } from '../../spine/tables.ts';
import { createTeam } from '../teams/store.ts';
import { createPeople, type NewPerson } from './create.ts';

/** Texts of a table as rows of people; without a header that names one, the first row counts as a person too. */
export async function readPeople(
  text: string,
  chosen: ListColumn[] | null,
): Promise<{ headers: string[]; columns: ListColumn[]; rows: PersonRow[] }> {
  const table = await readTable(text, '/text', false);
  if (table.rows.length > mostPeople)
    throw Problem.field(
      '/text',
      `${table.rows.length.toLocaleString('en')} rows; at most ${mostPeople.toLocaleString('en')} people are made at once. Split the list.`,
    );
  const matched = matchPersonColumns(table.headers);
  const named = matched.includes('name') || matched.includes('firstName') || matched.includes('lastName');
  if (named || chosen !== null) {
    const columns = chosen ?? matched;
    const cells = named ? table.rows : [table.headers, ...table.rows];
    return { headers: table.headers, columns, rows: personRows(cells, columns) };
  }
  const usual: ListColumn[] = ['name', 'team', 'extension', 'login', 'role'];
  const columns = table.headers.map((_, index) => usual[index] ?? null);
  const headers = table.headers.map((_, index) => `Column ${index + 1}`);
  return { headers, columns, rows: personRows([table.headers, ...table.rows], columns) };
}

async function peopleKnown(database: Knex): Promise<PeopleKnown> {
  const taken = await database('extension as e')
    .join('item as i', 'i.id', 'e.item_id')
    .leftJoin('person as p', 'p.id', 'e.item_id')
    .leftJoin('item as t', 't.id', 'p.team_id')
    .orderBy('e.digits')
    .select<{ digits: string; owner: string; person: string | null; team: string | null }[]>(
      'e.digits',
      'i.name as owner',
      'p.id as person',
      't.name as team',
    );
  const teamExtensions = new Map<string, string[]>();
  for (const { digits, team } of taken.filter((each) => each.person !== null))
    for (const key of new Set(['', (team ?? '').toLowerCase()]))
      teamExtensions.set(key, [...(teamExtensions.get(key) ?? []), digits]);
  return {
    logins: new Set(await database('person').pluck<string[]>('login')),
    extensions: new Map(taken.map(({ digits, owner }) => [digits, owner])),
    teams: (await teams(database)).map(({ name }) => name),
    teamExtensions,
  };
}

function teams(database: Knex): Promise<{ id: string; name: string }[]> {
  return database('item')
    .where({ kind: 'team' })
    .whereNull('retired_at')
    .orderBy('name')
    .select<{ id: string; name: string }[]>('id', 'name');
}

/** Every row checked and filled, and the teams that would be made with them. Nothing is kept. */
export async function checkList(
  database: Knex,
  rows: PersonRow[],
): Promise<{ rows: CheckedPerson[]; newTeams: string[] }> {
  const known = await peopleKnown(database);
  const checked = checkPeople(rows, known);
  const there = new Set(known.teams.map((team) => team.toLowerCase()));
  const wanted = checked.map(({ row }) => row.team).filter((team) => team !== '');
  return {
    rows: checked,
    newTeams: [...new Set(wanted)].filter((team) => !there.has(team.toLowerCase())),
  };
}

/** Makes everybody of the list with their new teams, or nobody: a fault is told at its row and cell. */
export async function createList(
  trx: Knex.Transaction,
  seal: SecretBox,
  rows: PersonRow[],
  author: Author,
): Promise<NewPerson[]> {
  await trx.raw('lock table extension in share row exclusive mode');
  const { rows: checked, newTeams } = await checkList(trx, rows);
  const faults = checked.flatMap(({ faults: cells }, index) =>
    Object.entries(cells).map(([column, detail]) => ({ path: `/rows/${index}/${column}`, detail })),
  );
  if (faults.length > 0)
    throw new Problem(
      'invalidInput',
      `${faults.length === 1 ? 'A cell is' : `${faults.length} cells are`} wrong by now. Nobody was made.`,
      faults,
    );
  for (const team of newTeams) await createTeam(trx, team, author);
  const teamIds = new Map((await teams(trx)).map(({ id, name }) => [name.toLowerCase(), id]));
  return createPeople(
    trx,
    seal,
    checked.map(({ row }) => personOfRow(row, teamIds)),
    author,
  );
}

import type { StringSchema } from 'joi';
import { deviceModel, deviceModels, type ModelId } from '../phones/catalogue.ts';
import { extension, login, name } from './fields.schema.ts';
import { mailAddress as mail, type PersonDraft } from './people.schema.ts';
import { Proposals } from './proposals.ts';
import { type Role, roles } from './roles.ts';

/** A person as a row of a list: texts as somebody typed them; what is empty is proposed. */
export interface PersonRow {
  name: string;
  team: string;
  role: string;
  login: string;
  extension: string;
  /** The model of the device made with them, or `none`. */
  phone: string;
  /** Where their codes can be sent. */
  mail: string;
}

export type PersonColumn = keyof PersonRow;
/** What a column of a table holds; the parts of a name are joined, null is left out. */
export type ListColumn = PersonColumn | 'firstName' | 'lastName' | null;

export const personColumns = ['name', 'team', 'role', 'login', 'extension', 'phone', 'mail'] as const;

/** What a checked row would become, with a sentence at each cell that is wrong. */
export interface CheckedPerson {
  row: PersonRow;
  faults: Partial<Record<PersonColumn, string>>;
}

export interface PeopleKnown {
  logins: ReadonlySet<string>;
  /** Owner's name by extension. */
  extensions: ReadonlyMap<string, string>;
  /** Names of teams. */
  teams: readonly string[];
  /** Extensions of people by the team's name in lower case; the empty key holds everybody's. */
  teamExtensions: ReadonlyMap<string, readonly string[]>;
}

/** More people than this are made in two goes. */
export const mostPeople = 5_000;

const headerNames: Record<Exclude<ListColumn, null>, readonly string[]> = {
  name: ['name', 'full name', 'person', 'agent', 'employee'],
  firstName: ['first name', 'firstname', 'given name', 'forename'],
  lastName: ['last name', 'lastname', 'surname', 'family name'],
  team: ['team', 'group', 'department'],
  role: ['role', 'rights'],
  login: ['login', 'user', 'username', 'user name', 'sign in'],
  extension: ['extension', 'ext', 'internal number'],
  phone: ['phone model', 'model', 'phone', 'handset', 'device'],
  mail: ['mail', 'email', 'e mail', 'mail address', 'email address'],
};

/** What each column holds, by its header; null for what is not known. Of two alike the first counts. */
export function matchPersonColumns(headers: readonly string[]): ListColumn[] {
  const taken = new Set<ListColumn>();
  return headers.map((header) => {
    const plain = header
      .trim()
      .toLowerCase()
      .replace(/[_.\-\s]+/g, ' ')
      .trim();
    const found = (Object.keys(headerNames) as Exclude<ListColumn, null>[]).find((column) =>
      headerNames[column].includes(plain),
    );
    if (found === undefined || taken.has(found)) return null;
    taken.add(found);
    return found;
  });
}

/** The rows of a table by what its columns hold. Rows without any of it are left out. */
export function personRows(
  cells: readonly (readonly string[])[],
  columns: readonly ListColumn[],
): PersonRow[] {
  const rows = cells.map((row) => {
    const at = (column: ListColumn) => (row[columns.indexOf(column)] ?? '').trim();
    const both = `${at('firstName')} ${at('lastName')}`.trim();
    return {
      name: at('name') || both,
      team: at('team'),
      role: at('role'),
      login: at('login'),
      extension: at('extension'),
      phone: at('phone'),
      mail: at('mail'),
    };
  });
  return rows.filter((row) => Object.values(row).some((cell) => cell !== ''));
}

/** So many people with consecutive extensions, named after them. */
export function personRange(range: { count: number; from: number; team: string; word: string }): PersonRow[] {
  return Array.from({ length: range.count }, (_, index) => {
    const digits = String(range.from + index);
    const name = `${range.word} ${digits}`;
    return { name, team: range.team, role: '', login: '', extension: digits, phone: '', mail: '' };
  });
}

/**
 * Checks every cell, against what there is and against the rows before, and fills what is empty: role agent, a free
 * login from the name, the next extension of the team. A team that is not there yet is no fault: it is made.
 */
export function checkPeople(rows: readonly PersonRow[], known: PeopleKnown): CheckedPerson[] {
  const proposals = new Proposals(known.logins, known.extensions.keys(), known.teamExtensions);
  const loginRows = new Map<string, number>();
  const extensionRows = new Map<string, number>();
  // What rows ask for by name comes before what is proposed to others.
  for (const row of rows) {
    if (row.login.trim() !== '') proposals.reserve({ login: row.login.trim().toLowerCase() });
    if (row.extension.trim() !== '') proposals.reserve({ extension: row.extension.trim() });
  }
  const spelling = new Map(known.teams.map((team) => [team.toLowerCase(), team]));
  return rows.map((given, index) => {
    const row = { ...given };
    const faults: CheckedPerson['faults'] = {};
    row.name = take(name, given.name, (sentence) => (faults.name = sentence));
    if (given.team.trim() !== '') {
      row.team = take(name, given.team, (sentence) => (faults.team = sentence));
      const key = row.team.toLowerCase();
      row.team = spelling.get(key) ?? row.team;
      spelling.set(key, row.team);
    }
    row.role = given.role.trim().toLowerCase() || 'agent';
    if (!roles.includes(row.role as Role)) faults.role = `A role is one of ${roles.join(', ')}.`;
    const model = given.phone.trim() === '' ? usualPhone(row.role) : modelNamed(given.phone);
    if (model === undefined) faults.phone = `A phone is one of ${modelWords}, or none.`;
    else row.phone = model === null ? 'none' : deviceModel(model)!.name;
    if (given.mail.trim() !== '') row.mail = take(mail, given.mail, (sentence) => (faults.mail = sentence));

    if (given.login.trim() === '') {
      row.login = faults.name === undefined ? proposals.login(row.name) : '';
    } else {
      row.login = take(login, given.login, (sentence) => (faults.login = sentence));
      if (known.logins.has(row.login))
        faults.login = `${row.login} is somebody else's. Free: ${proposals.freeLogin(row.login)}.`;
      const before = loginRows.get(row.login);
      if (before !== undefined) faults.login ??= `The same login as row ${before}.`;
      loginRows.set(row.login, before ?? index + 1);
    }

    const team = row.team.toLowerCase();
    if (given.extension.trim() === '') row.extension = proposals.extension(team);
    else {
      row.extension = take(extension, given.extension, (sentence) => (faults.extension = sentence));
      const owner = known.extensions.get(row.extension);
      if (owner !== undefined)
        faults.extension = `${row.extension} is ${owner}. Next free: ${proposals.freeExtension(row.extension)}.`;
      const before = extensionRows.get(row.extension);
      if (before !== undefined) faults.extension ??= `The same extension as row ${before}.`;
      extensionRows.set(row.extension, before ?? index + 1);
      if (faults.extension === undefined) proposals.takeExtension(team, row.extension);
    }
    return { row, faults };
  });
}

/** A row that was checked and is good, as a person to be made; teams are found by their names. */
export function personOfRow(row: PersonRow, teamIds: ReadonlyMap<string, string>): PersonDraft {
  return {
    name: row.name,
    role: row.role as Role,
    login: row.login,
    extension: row.extension,
    teamId: row.team === '' ? null : teamIds.get(row.team.toLowerCase())!,
    phoneModel: modelNamed(row.phone) ?? null,
    mail: row.mail === '' ? null : row.mail,
  };
}

const modelWords = deviceModels.map(({ name: word }) => word.toLowerCase()).join(', ');

/** A device by its name, its id or a short form ('desk 6'); null for none, undefined for what is no device of ours. */
function modelNamed(text: string): ModelId | null | undefined {
  const plain = text.trim().toLowerCase();
  if (['none', 'no', '-'].includes(plain)) return null;
  const short = plain.replace(/[\s_-]|phone|with|keys/g, '');
  return deviceModels.find(
    ({ id, name: word }) => word.toLowerCase() === plain || id === plain || id === short,
  )?.id;
}

/** Who answers calls gets a softphone. */
function usualPhone(role: string): ModelId | null {
  return role === 'agent' || role === 'supervisor' ? 'softphone' : null;
}

function take(schema: StringSchema, text: string, refuse: (sentence: string) => void): string {
  const { error, value } = schema.required().validate(text) as { error?: Error; value: string };
  if (error !== undefined) refuse(error.message);
  return error === undefined ? value : text;
}

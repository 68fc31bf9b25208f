import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import type { Knex } from 'knex';
import type { Destination } from '@night-bell/core/model/destination';
import { numberDraft } from '@night-bell/core/model/numbers.schema';
import { personDraft } from '@night-bell/core/model/people.schema';
import { queueRequest } from '@night-bell/core/model/queues.schema';
import { createNumber } from '../areas/numbers/store.ts';
import { createPeople, type NewPerson } from '../areas/people/create.ts';
import { createQueue } from '../areas/queues/store.ts';
import { installation, setPassword } from '../areas/session/store.ts';
import { createTeam } from '../areas/teams/store.ts';
import type { Database } from '../database/connection.ts';
import { realm } from '../live/registrar.ts';
import { hashPassword } from '../security/passwords.ts';
import type { Seal } from '../security/seal.ts';
import { authorOf } from '../spine/items.ts';
import { rehearsePast } from './past.ts';
import type { DemoPerson } from './person.ts';

interface DemoQueue {
  name: string;
  members: string[];
  whenTooLong?: string;
  whenNobody?: string | null;
  [other: string]: unknown;
}

export interface DemoPhones {
  enrol: string[];
  typed: { account: string; domain: string; secret: string; name: string }[];
}

const files = { people: 'people.csv', queues: 'queues.json', numbers: 'numbers.csv' };

export function readRows<Row>(folder: string, file: string): Row[] {
  return parse(readFileSync(join(folder, file)), {
    columns: true,
    skip_empty_lines: true,
    trim: true,
  }) as Row[];
}

/**
 * Loads the demo company once, through the code that the screens use, and the last two days by rehearsal. Gives the
 * phones that the stand-ins are to play; none when it was loaded before.
 */
export async function ensureDemo(database: Database, seal: Seal, folder: string): Promise<DemoPhones> {
  const none: DemoPhones = { enrol: [], typed: [] };
  if ((await installation(database)).demo) return none;
  const people = readRows<DemoPerson>(folder, files.people);
  const company = JSON.parse(readFileSync(join(folder, 'company.json'), 'utf8')) as {
    name: string;
    timeZone: string;
    password: string;
  };
  const passwordHash = await hashPassword(company.password);
  const made = await database.transaction(async (trx) => {
    await trx('installation').update({ name: company.name, time_zone: company.timeZone, demo: true });
    const created = await loadPeople(trx, seal, people);
    for (const [index, row] of people.entries()) {
      if (row.account === 'yes') await setPassword(trx, created[index]!.id, passwordHash);
    }
    await loadQueues(trx, JSON.parse(readFileSync(join(folder, files.queues), 'utf8')) as DemoQueue[]);
    await loadNumbers(trx, readRows(folder, files.numbers));
    return created;
  });
  await rehearsePast(database, folder, people, made, company.timeZone);
  const phones = made.map((person, index) => ({ person, phone: people[index]!.phone }));
  return {
    enrol: phones.filter(({ phone }) => phone === 'enrolled').map(({ person }) => person.enrolmentCode),
    typed: phones
      .filter(({ phone }) => phone === 'wrong secret')
      .map(({ person }) => ({
        account: person.account,
        domain: realm,
        secret: 'typed by hand, wrongly',
        name: person.name,
      })),
  };
}

async function loadPeople(trx: Knex.Transaction, seal: Seal, people: DemoPerson[]): Promise<NewPerson[]> {
  const author = authorOf(null);
  const teams = new Map<string, string>();
  for (const team of new Set(people.map((person) => person.team)))
    teams.set(team, await createTeam(trx, team, author));
  const drafts = people.map(({ name, team, role }) =>
    checked(personDraft.validate({ name, role, teamId: teams.get(team) })),
  );
  return createPeople(trx, seal, drafts, author);
}

async function loadQueues(trx: Knex.Transaction, queues: DemoQueue[]): Promise<void> {
  const author = authorOf(null);
  for (const queue of queues) {
    const { members, whenTooLong, whenNobody, ...rest } = queue;
    const memberIds: string[] = [];
    for (const name of members) memberIds.push(await itemCalled(trx, ['team', 'person'], name));
    const request = {
      ...rest,
      members: memberIds,
      ...(whenTooLong === undefined ? {} : { whenTooLong: await destinationCalled(trx, whenTooLong) }),
      ...(whenNobody === undefined
        ? {}
        : { whenNobody: whenNobody === null ? null : await destinationCalled(trx, whenNobody) }),
    };
    await createQueue(trx, checked(queueRequest.validate(request)), author);
  }
}

async function loadNumbers(
  trx: Knex.Transaction,
  numbers: { number: string; label: string; destination: string }[],
): Promise<void> {
  const author = authorOf(null);
  for (const { number, label, destination } of numbers) {
    const draft = {
      e164: number,
      label,
      destination: destination === '' ? null : await destinationCalled(trx, destination),
    };
    await createNumber(trx, checked(numberDraft.validate(draft)), author);
  }
}

/** A destination written like `queue: Bookings`. */
async function destinationCalled(trx: Knex, text: string): Promise<Destination> {
  if (text === 'end') return { kind: 'end' };
  const [kind = '', name = ''] = text.split(': ');
  return { kind, id: await itemCalled(trx, [kind], name) } as Destination;
}

async function itemCalled(trx: Knex, kinds: string[], name: string): Promise<string> {
  const row = await trx('item')
    .whereIn('kind', kinds)
    .andWhere({ name })
    .orderBy('kind', 'desc')
    .first<{ id: string } | undefined>('id');
  if (row === undefined) throw new Error(`the demo names ${name}, which is not there`);
  return row.id;
}

function checked<T>({ error, value }: { error?: Error | undefined; value?: T }): T {
  if (error !== undefined) throw error;
  return value as T;
}

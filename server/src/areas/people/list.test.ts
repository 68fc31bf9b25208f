import { afterAll, beforeAll, expect, test } from 'vitest';
import type { CheckedPerson, ListColumn, PersonRow } from '@night-bell/core/model/people-list';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import {
  Browser,
  firstAdministrator,
  freshDatabase,
  personSignedIn,
  seal,
  startServer,
  until,
} from '../../server.testing.ts';
import type { Letter } from '../../mail/mail.ts';
import { sendLetters } from '../../mail/outbox.ts';
import { newId } from '../../spine/items.ts';
import type { NewPerson } from './create.ts';
import type { PersonView } from './store.ts';

interface Read {
  headers: string[];
  columns: ListColumn[];
  rows: PersonRow[];
}
interface Checked {
  rows: CheckedPerson[];
  newTeams: string[];
}
interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let database: Database;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  const fresh = await freshDatabase();
  database = fresh.database;
  night = await startServer(database, { mail: postOffice });
  admin = await firstAdministrator(night, database);
  drop = async () => {
    await night.close();
    await fresh.drop();
  };
});
afterAll(() => drop());

const postOffice = { send: () => Promise.reject(new Error('closed')) };
const post = async <T>(path: string, body: unknown) => admin.send<T>('POST', `/api/people/list${path}`, body);
const row = (name: string, more: Partial<PersonRow> = {}): PersonRow => ({
  name,
  team: '',
  role: '',
  login: '',
  extension: '',
  phone: '',
  mail: '',
  ...more,
});
const people = async () => Number((await database('person').count())[0]!.count);

test('pasted rows are read by their headers, in any order and separator, or by place without them', async () => {
  const read = (await post<Read>('/read', { text: 'Ext;Surname;First name;Shoe\n2301;Lee;Ann;40\n;;;41' }))
    .body;
  expect(read.columns).toEqual(['extension', 'lastName', 'firstName', null]);
  expect(read.rows).toEqual([row('Ann Lee', { extension: '2301' })]);
  const bare = (await post<Read>('/read', { text: 'Ann Lee\tBookings\nBo Ray\tFreight' })).body;
  expect(bare.rows).toEqual([row('Ann Lee', { team: 'Bookings' }), row('Bo Ray', { team: 'Freight' })]);
  const chosen = (await post<Read>('/read', { text: 'a,b\nBookings,Ann Lee', columns: ['team', 'name'] }))
    .body;
  expect(chosen.rows[1]).toEqual(row('Ann Lee', { team: 'Bookings' }));
  const long = await post<Refusal>('/read', { text: `name\n${'Ann Lee\n'.repeat(5_001)}` });
  expect(long.body.errors[0]!.detail).toContain('5,001 rows; at most 5,000');
  const open = await post<Refusal>('/read', { text: 'name\n"Ann' });
  expect(open.status).toBe(422);
  expect(open.body.errors[0]!.detail).toContain('quotation mark');
});

test('three bad rows are told at their cells, and nobody is made until they are mended', async () => {
  const before = await people();
  const rows = [
    row('Ann Lee', { team: 'Night crew' }),
    row(''),
    row('Bo Ray', { role: 'captain', extension: '911' }),
    row('Cy Lee', { login: 'ann.lee' }),
    row('Di Lee', { login: 'ann.lee' }),
  ];
  const checked = (await post<Checked>('/check', { rows })).body;
  expect(checked.newTeams).toEqual(['Night crew']);
  expect(checked.rows.map((each) => Object.keys(each.faults))).toEqual([
    [],
    ['name'],
    ['role', 'extension'],
    [],
    ['login'],
  ]);
  // The login asked for by name is not proposed to the row above.
  expect(checked.rows[0]!.row.login).toBe('ann.lee2');
  const refused = await post<Refusal>('', { rows });
  expect(refused.status).toBe(422);
  expect(refused.body.errors.map((each) => each.path)).toContain('/rows/2/extension');
  expect(await people()).toBe(before);
  expect(await database('item').where({ kind: 'team', name: 'Night crew' })).toEqual([]);
});

test('good rows are made all at once, with their teams, phones, voicemail and codes', async () => {
  const rows = [
    row('Ann Lee', { team: 'Night crew' }),
    row('Bo Ray', { team: 'night crew', role: 'Supervisor' }),
  ];
  const made = (await post<NewPerson[]>('', { rows })).body;
  expect(made.map((each) => each.name)).toEqual(['Ann Lee', 'Bo Ray']);
  expect(Number(made[1]!.extension)).toBe(Number(made[0]!.extension) + 1);
  const list = await Promise.all(
    made.map(
      async ({ id }) => (await admin.send<{ person: PersonView }>('GET', `/api/people/${id}`)).body.person,
    ),
  );
  expect(list.map((each) => [each.teamName, each.role, each.phones.length])).toEqual([
    ['Night crew', 'agent', 1],
    ['Night crew', 'supervisor', 1],
  ]);
  const again = (await post<Checked>('/check', { rows: [row('Ann Lee', { extension: made[0]!.extension })] }))
    .body;
  expect(again.rows[0]!.faults.extension).toContain('is Ann Lee');
});

test('phones named in the list are made, and codes go by mail to those with an address, sealed while they wait', async () => {
  const rows = [
    row('Desk Dora', { phone: 'desk 6', mail: 'dora@ferries.example' }),
    row('No Phone Nils', { phone: 'none', mail: 'nils@ferries.example' }),
    row('Soft Sam'),
  ];
  const [dora, nils, sam] = (await post<NewPerson[]>('', { rows, sendCodes: true })).body;
  expect([dora!.sentTo, nils!.sentTo, sam!.sentTo]).toEqual([
    'dora@ferries.example',
    'nils@ferries.example',
    null,
  ]);
  const { person } = (await admin.send<{ person: PersonView }>('GET', `/api/people/${dora!.id}`)).body;
  expect(person.phones.map(({ model }) => model)).toEqual(['desk6']);
  expect([nils!.phone, sam!.phone === null]).toEqual([null, false]);
  const waiting = await database('letter').pluck<string[]>('body');
  expect(waiting).toHaveLength(2);
  for (const body of waiting) expect(body).not.toContain(dora!.signInCode);
  const sent: Letter[] = [];
  // The server's own look for letters finds the post office shut, and may come between.
  const letter = await until(async () => {
    await database('letter').update({ next_try: database.fn.now() });
    await sendLetters(database, { send: async (each) => void sent.push(each) }, seal);
    return sent.length === 2 ? sent.find(({ to }) => to === 'dora@ferries.example') : undefined;
  }, 'both letters are sent');
  expect(letter.text).toContain(dora!.signInCode);
  expect(letter.text).toContain(dora!.phone!.enrolmentCode);
  expect(await database('letter')).toEqual([]);
});

test('new codes for many: the old ones, passwords and sign-ins end; oneself and who is gone are refused', async () => {
  const [ann, bo] = (await post<NewPerson[]>('', { rows: [row('Code Ann'), row('Code Bo')] })).body;
  const { browser } = await personSignedIn(night, admin, 'Code Cy', 'agent');
  const cy = (await browser.send<{ person: { id: string } }>('GET', '/api/session')).body.person.id;
  const codes = (ids: string[], who = admin) =>
    who.send<NewPerson[] & { detail: string }>('POST', '/api/people/codes', { ids });
  const fresh = (await codes([ann!.id, bo!.id, cy])).body;
  expect(fresh.map(({ name }) => name)).toEqual(['Code Ann', 'Code Bo', 'Code Cy']);
  expect((await browser.send('GET', '/api/calls')).status).toBe(401);
  const other = new Browser(night);
  expect(await other.signIn(ann!.login, ann!.signInCode)).toBe(401);
  expect(await other.signIn(ann!.login, fresh[0]!.signInCode)).toBe(204);
  const me = (await admin.send<{ person: { id: string } }>('GET', '/api/session')).body.person.id;
  expect((await codes([me, bo!.id])).body.detail).toContain('You are among them');
  expect((await codes([bo!.id, newId()])).body.detail).toContain('not there any more');
});

test('without a post office nothing is said to be sent, nobody is made, and no code ends', async () => {
  const fresh = await freshDatabase();
  const alone = await startServer(fresh.database);
  const chief = await firstAdministrator(alone, fresh.database);
  const send = <T>(path: string, body: object) => chief.send<T>('POST', `/api/people/${path}`, body);
  const rows = [row('Ann', { mail: 'ann@ferries.example' })];
  const refused = await send<Refusal>('list', { rows, sendCodes: true });
  expect([refused.status, refused.body.errors[0]!.path]).toEqual([409, '/sendCodes']);
  expect(refused.body.errors[0]!.detail).toContain('No post office');
  const [ann] = (await send<NewPerson[]>('list', { rows })).body;
  const codes = await send<Refusal>('codes', { ids: [ann!.id], send: true });
  expect([codes.status, codes.body.errors[0]!.path]).toEqual([409, '/send']);
  expect(await new Browser(alone).signIn(ann!.login, ann!.signInCode)).toBe(204);
  await alone.close();
  await fresh.drop();
});

test('markup stays text; supervisors and agents may not make people', async () => {
  const [made] = (await post<NewPerson[]>('', { rows: [row('<b>Bold</b> & Co')] })).body;
  expect(made!.name).toBe('<b>Bold</b> & Co');
  for (const role of ['supervisor', 'agent', 'auditor'] as const) {
    const { browser } = await personSignedIn(night, admin, `A ${role}`, role);
    expect((await browser.send('POST', '/api/people/list', { rows: [row('X')] })).status).toBe(403);
  }
});

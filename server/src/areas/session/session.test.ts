import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import {
  Browser,
  firstAdministrator,
  freshDatabase,
  password,
  seal,
  personSignedIn,
  startServer,
} from '../../server.testing.ts';
import { firstAdministratorCode } from '../../security/first-administrator.ts';
import type { NewPerson } from '../people/create.ts';

let night: NightBell;
let database: Database;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  const fresh = await freshDatabase();
  database = fresh.database;
  night = await startServer(database);
  drop = async () => {
    await night.close();
    await fresh.drop();
  };
});
afterAll(() => drop());

test('an empty installation makes its first administrator with the code of the terminal, once', async () => {
  await firstAdministratorCode(database, seal);
  const visitor = new Browser(night);
  const form = {
    company: 'Test Ferries',
    timeZone: 'America/Los_Angeles',
    name: 'Eve',
    login: 'eve',
    password,
  };
  const guessed = await visitor.send<{ errors: { path: string }[] }>('POST', '/api/installation', {
    ...form,
    code: 'AAAAA-AAAAA',
  });
  expect([guessed.status, guessed.body.errors[0]!.path]).toEqual([401, '/code']);
  admin = await firstAdministrator(night, database);
  expect((await visitor.send('POST', '/api/installation', { ...form, code: 'AAAAA-AAAAA' })).status).toBe(
    409,
  );
  expect(await firstAdministratorCode(database, seal)).toBeNull();
});

test('a one-time code opens only the setting of an own password, and works once', async () => {
  const made = (await admin.send<NewPerson>('POST', '/api/people', { name: 'New Comer' })).body;
  const browser = new Browser(night);
  expect(await browser.signIn(made.login, made.signInCode.toLowerCase().replaceAll('-', ' '))).toBe(204);
  expect((await browser.send<{ code: string }>('GET', '/api/calls')).body.code).toBe('passwordNeeded');
  const short = await browser.send<{ errors: { path: string }[] }>('PUT', '/api/session/password', {
    password: 'short',
  });
  expect([short.status, short.body.errors[0]!.path]).toEqual([422, '/password']);
  expect((await browser.send('PUT', '/api/session/password', { password })).status).toBe(204);
  await browser.readToken();
  expect((await browser.send('GET', '/api/calls')).status).toBe(200);
  const other = new Browser(night);
  expect(await other.signIn(made.login, made.signInCode)).toBe(401);
  expect(await other.signIn(made.login, password)).toBe(204);
});

test('nothing of a secret is readable in the database', async () => {
  const rows = await database('credential').select('password_hash');
  for (const row of rows) expect(row.password_hash).toMatch(/^\$argon2id\$/);
  const sessions = await database('session').select('hash');
  expect(sessions.length).toBeGreaterThan(0);
  const phones = await database('phone').select('ha1_sealed');
  for (const phone of phones) expect(phone.ha1_sealed).not.toMatch(/[0-9a-f]{32}/);
});

test('signing out ends the session; a sign-in from another site is refused', async () => {
  const browser = new Browser(night);
  await browser.signIn('ada', password);
  expect((await browser.send('DELETE', '/api/session')).status).toBe(204);
  expect((await browser.send('GET', '/api/people')).status).toBe(401);
  const foreign = await browser.send<{ code: string }>(
    'POST',
    '/api/session',
    { login: 'ada', password },
    { origin: 'http://elsewhere.example' },
  );
  expect(foreign.body.code).toBe('forgedRequest');
});

test('how one reads dates and whose clock is one’s own; the company’s way is set by administrators', async () => {
  interface View {
    reading: { locale: string | null; timeZone: string | null };
    installation: { locale: string | null };
    errors: { path: string; detail: string }[];
  }
  const { browser } = await personSignedIn(night, admin, 'Rea Der', 'agent');
  const own = await browser.send<View>('PUT', '/api/session/reading', {
    ...{ locale: 'fr-CA', timeZone: 'Europe/Berlin' },
  });
  expect(own.body.reading).toEqual({ locale: 'fr-CA', timeZone: 'Europe/Berlin' });
  expect((await admin.send<View>('GET', '/api/session')).body.reading).toEqual({
    locale: null,
    timeZone: null,
  });
  const bad = await browser.send<View>('PUT', '/api/session/reading', {
    locale: 'xx',
    timeZone: 'Mars/Base',
  });
  expect(bad.body.errors).toEqual([
    { path: '/locale', detail: 'Choose one of the ways of writing that are offered.' },
    { path: '/timeZone', detail: 'There is no time zone of this name.' },
  ]);
  expect((await browser.send('PUT', '/api/installation/reading', { locale: 'en-US' })).status).toBe(403);
  expect((await admin.send('PUT', '/api/installation/reading', { locale: 'en-US' })).status).toBe(200);
  expect((await browser.send<View>('GET', '/api/session')).body.installation.locale).toBe('en-US');
  // An administrator’s way of writing is nobody else’s once they chose.
  expect((await browser.send<View>('GET', '/api/session')).body.reading.locale).toBe('fr-CA');
});

import { afterAll, beforeAll, expect, test } from 'vitest';
import type { ScriptKeyView } from '@night-bell/core/contracts/script-keys';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight, personSignedIn, until } from '../../server.testing.ts';

let night: NightBell;
let database: Database;
let admin: Browser;
let drop: () => Promise<void>;
let count = 0;

beforeAll(async () => {
  ({ night, database, admin, drop } = await openNight());
});
afterAll(() => drop());

type Draft = Partial<Pick<ScriptKeyView, 'role' | 'areas'>>;
/** A key with its secret. */
async function made({ role = 'administrator', areas = [] }: Draft = {}) {
  const { body: key } = await admin.send<ScriptKeyView>('POST', '/api/script-keys', {
    ...{ name: `Key ${++count}`, role, areas },
  });
  const { secret } = (await admin.send<{ secret: string }>('POST', `/api/script-keys/${key.id}/secret`)).body;
  return { key, secret };
}

/** A request as a script sends it: a secret, and nothing a browser would have. */
async function call(secret: string, method: 'GET' | 'POST' | 'DELETE', url: string, payload?: object) {
  const answer = await night.app.inject({
    ...{ method, url, headers: { authorization: `Bearer ${secret}` } },
    ...(payload === undefined ? {} : { payload }),
  });
  return { status: answer.statusCode, body: answer.json<{ code?: string; detail?: string; id?: string }>() };
}
const read = async (id: string) =>
  (await admin.send<{ item: ScriptKeyView }>('GET', `/api/script-keys/${id}`)).body.item;

test('a script makes a person and reads calls by its key alone; that it was used can be seen', async () => {
  const { key, secret } = await made();
  expect(key).toMatchObject({ hasSecret: false, begins: null, lastUsedAt: null });
  const person = await call(secret, 'POST', '/api/people', { name: 'Made By Script' });
  expect(person.status).toBe(200);
  expect((await call(secret, 'GET', '/api/calls')).status).toBe(200);
  expect(await read(key.id)).toMatchObject({
    ...{ hasSecret: true, begins: secret.slice(0, 10), madeBy: 'Ada Admin' },
    lastUsedAt: expect.any(Number) as number,
  });
  // Its changes stand under the name of who made the secret; the secret itself stands nowhere.
  const history = JSON.stringify((await admin.send('GET', `/api/items/${person.body.id}/history`)).body);
  expect(history).toContain('Ada Admin');
  const kept = JSON.stringify(await database('script_key').where({ id: key.id }).first());
  expect(kept).not.toContain(secret);
});

test('it may do what its role may, under the headings it is kept to, and nothing else', async () => {
  const { secret } = await made({ role: 'auditor', areas: ['Calls', 'People'] });
  expect((await call(secret, 'GET', '/api/calls')).status).toBe(200);
  expect((await call(secret, 'POST', '/api/people', { name: 'No' })).body.code).toBe('notAllowed');
  const outside = await call(secret, 'GET', '/api/queues');
  expect(outside).toMatchObject({
    status: 403,
    body: { detail: expect.stringContaining('kept to: Calls, People') as string },
  });
});

test('what is for people only is closed to every key, and it is nobody who signed in', async () => {
  const { key, secret } = await made();
  const again = await call(secret, 'POST', `/api/script-keys/${key.id}/secret`);
  expect(again.body.detail).toContain('This is for people');
  expect((await call(secret, 'GET', '/api/session')).body).toMatchObject({ person: null });
  const areas = (await admin.send<string[]>('GET', '/api/script-keys/areas')).body;
  expect(areas).toContain('Calls');
  expect(areas).not.toContain('Desk');
});

test('a key that is deactivated, or got another secret, ends within a second; a wrong one never began', async () => {
  const { key, secret } = await made();
  expect((await call(secret, 'GET', '/api/people')).status).toBe(200);
  const { secret: next } = (await admin.send<{ secret: string }>('POST', `/api/script-keys/${key.id}/secret`))
    .body;
  await until(async () => (await call(secret, 'GET', '/api/people')).status === 401, 'the first secret ends');
  expect((await call(next, 'GET', '/api/people')).status).toBe(200);
  const { version } = await read(key.id);
  await admin.send('POST', `/api/script-keys/${key.id}/retire`, {}, { 'if-match': `"${version}"` });
  await until(async () => (await call(next, 'GET', '/api/people')).status === 401, 'the key ends');
  const wrong = await call(`bell_${'x'.repeat(43)}`, 'GET', '/api/people');
  expect(wrong.body.detail).toContain('not valid');
});

test('only administrators make keys, and the making of a secret is in the history', async () => {
  const { key } = await made();
  const { browser } = await personSignedIn(night, admin, 'Sana Keys', 'supervisor');
  expect((await browser.send('POST', `/api/script-keys/${key.id}/secret`)).status).toBe(403);
  const history = (await admin.send<{ what: string }[]>('GET', `/api/items/${key.id}/history`)).body;
  expect(history.map(({ what }) => what)).toContain('secretMade');
});

import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import type { NewPerson } from '../areas/people/create.ts';
import type { Database } from '../database/connection.ts';
import { type Browser, openNight, password, startServer, until } from '../server.testing.ts';

let night: NightBell;
let admin: Browser;
let database: Database;
let drop: () => Promise<void>;

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight());
});
afterAll(() => drop());

const configurations = async () =>
  Number(
    (
      await database('exchange_event').whereRaw(`body->>'kind' = 'configurationChanged'`).count({ n: '*' })
    )[0]!.n,
  );
const announce = (times: number) =>
  database('exchange_inbox').insert(
    Array.from({ length: times }, () => ({ body: JSON.stringify({ kind: 'recompile' }) })),
  );

test('three hundred changes are one compilation, and no command of a person waits behind them', async () => {
  const person = (await admin.send<NewPerson>('POST', '/api/people', { name: 'Ann First' })).body;
  await night.live.settled();
  const before = await configurations();
  await database('item').where({ id: person.id }).update({ name: 'Ann Changed' });
  await announce(300);
  await database.raw(`select pg_notify('night_bell_inbox', '')`);
  const began = Date.now();
  const moved = await admin.send('POST', `/api/people/${person.id}/state`, { state: 'available' });
  expect(moved.status).toBe(204);
  await night.live.settled();
  expect(Date.now() - began).toBeLessThan(5_000);
  expect((await configurations()) - before).toBe(1);
  expect(night.live.exchange.view().agents.get(person.id)!.person.name).toBe('Ann Changed');
  const open = await database('exchange_inbox').whereNull('done_seq').whereNull('refusal');
  expect(open).toEqual([]);
});

test('a command about somebody made a moment ago waits for the exchange to hear of them', async () => {
  const made = (await admin.send<NewPerson>('POST', '/api/people', { name: 'Brand New' })).body;
  const moved = await admin.send('POST', `/api/people/${made.id}/state`, { state: 'available' });
  expect(moved.status).toBe(204);
  expect(night.live.exchange.view().agents.get(made.id)!.presence).toBe('available');
});

test('a server answers before its exchange has read its log, says how far it is, and is right by itself', async () => {
  await night.live.committed();
  const second = await startServer(database);
  const { live } = second as unknown as { live: { replica: unknown; catchingUp: unknown } };
  const { replica } = live;
  live.replica = null;
  live.catchingUp = { done: 250, last: 1_000 };
  const signedIn = await second.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { login: 'ada', password },
  });
  const cookie = signedIn.cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  const answer = await second.app.inject({ url: '/api/floor', headers: { cookie } });
  expect([answer.statusCode, answer.headers['retry-after'], answer.json().detail]).toEqual([
    503,
    '1',
    'The exchange is catching up. It has read 25 % of its log. Try again in a moment.',
  ]);
  expect((await second.app.inject({ url: '/api/people', headers: { cookie } })).statusCode).toBe(200);
  live.replica = replica;
  await until(
    async () => (await second.app.inject({ url: '/api/floor', headers: { cookie } })).statusCode === 200,
    'it answers again',
  );
  await second.close();
});

import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import {
  type Browser,
  firstAdministrator,
  freshDatabase,
  personSignedIn,
  seal,
  startServer,
} from '../../server.testing.ts';
import { Book, type BookRecord } from '../../../../standins/src/harbour-book/book.ts';
import { HarbourBook } from '../../../../standins/src/harbour-book/server.ts';
import { Outgoing } from '../../outgoing/outgoing.ts';
import { writeCalls } from '../../live/log.queries.ts';
import { queueWriteBack, sendOutbox } from './outbox.ts';
import { lookUpRecord, recordsByDigits } from './look-up.ts';
import { type ConnectionView, recordByNumber } from './store.ts';

const key = 'key of Harbour Book';
let database: Database;
let night: NightBell;
let admin: Browser;
let book: Book;
let harbourBook: HarbourBook;
let address: string;
let port: number;
let drop: () => Promise<void>;
const memory = mkdtempSync(join(tmpdir(), 'night-bell-'));

const customer = (id: string, number: string, owner: string | null): BookRecord => ({
  id,
  name: `Customer ${id}`,
  numbers: [number],
  owner,
  fields: { tier: 'gold' },
  changedAt: '2026-11-20T10:00:00.000Z',
  calls: {},
});

beforeAll(async () => {
  const fresh = await freshDatabase();
  database = fresh.database;
  book = new Book(join(memory, 'book.json'), () => [
    customer('HB-1', '(360) 555-0111', 'ada'),
    customer('HB-2', '+1 360 555 0112', null),
    customer('HB-3', 'not a number', null),
  ]);
  harbourBook = new HarbourBook(book, key);
  port = await harbourBook.listen(0);
  // Allowed by whoever runs the server, as the demo does for its own.
  night = await startServer(database, { allowedAddresses: [`127.0.0.1:${port}`, '127.0.0.1:1'] });
  admin = await firstAdministrator(night, database);
  address = `http://127.0.0.1:${port}/api`;
  drop = async () => {
    await night.close();
    await fresh.drop();
    rmSync(memory, { recursive: true });
  };
});
afterAll(async () => {
  await harbourBook.close();
  await drop();
});

const outgoing = () => new Outgoing(() => Promise.resolve(new Set([`127.0.0.1:${port}`])));
const test_ = (body: object) =>
  admin.send<{ ok: boolean; detail: string; mayAllow: string | null; errors: { path: string }[] }>(
    'POST',
    '/api/connections/test',
    body,
  );

test('the test of a connection says what is wrong: key, address, or not a customer system at all', async () => {
  expect((await test_({ address, key })).body).toMatchObject({
    ok: true,
    detail: 'Harbour Book answers, with 3 records.',
  });
  expect((await test_({ address, key: 'another key' })).body.detail).toMatch(/refused the key/);
  expect((await test_({ address: 'http://127.0.0.1:1/api', key })).body.detail).toMatch(/Nothing answers/);
  expect((await test_({ address: address.replace('/api', '/pages/HB-1'), key })).body.ok).toBe(false);
  harbourBook.mood = 'broken';
  expect((await test_({ address, key })).body.detail).toMatch(/answered 500/);
  harbourBook.mood = 'slow';
  expect((await test_({ address, key })).body.detail).toMatch(/within 4 seconds/);
  harbourBook.mood = 'well';
});

test('connected, its records are read, callers matched by normalised number, owners by login; the key is sealed', async () => {
  const made = await admin.send<ConnectionView>('POST', '/api/connections', {
    name: 'Harbour Book',
    address,
    key,
    link: `http://127.0.0.1:${port}/pages/{{ record.id }}?n={{ record.name }}`,
  });
  expect(made.body).toMatchObject({ records: 3, fault: null });
  expect(JSON.stringify(made.body)).not.toContain(key);
  const row = await database('connection').first();
  expect(row!.key_sealed).not.toContain(key);
  const me = (await admin.send<{ person: { id: string } }>('GET', '/api/session')).body.person.id;
  const found = await recordByNumber(database, '+13605550111');
  expect(found).toMatchObject({ name: 'Customer HB-1', ownerId: me });
  expect(await recordByNumber(database, '+13605550119')).toBeNull();
  const record = (await admin.send<{ link: string }>('GET', `/api/records/${found!.id}`)).body;
  expect(record.link).toBe(`http://127.0.0.1:${port}/pages/HB-1?n=Customer%20HB-1`);
  const wrong = await admin.send<{ errors: { path: string }[] }>(
    'PUT',
    `/api/connections/${made.body.id}`,
    { name: 'Harbour Book', address, link: 'http://x.example/{{ record.colour }}' },
    { 'if-match': `"${made.body.version}"` },
  );
  expect(wrong.body.errors[0]!.path).toBe('/link');
});

test('who typed a customer number, or a PIN, is asked for at the customer system, as it is there now', async () => {
  const look = (digits: string, field = '', withinMs = 2_000) =>
    lookUpRecord({ database, seal, outgoing: outgoing() }, { digits, field, withinMs });
  // What is kept here is of before: the system itself is asked.
  book.get('HB-1')!.fields.tier = 'standard';
  expect(await look('1')).toMatchObject({ name: 'Customer HB-1', fields: { tier: 'standard' } });
  expect(await look('0001')).toMatchObject({ name: 'Customer HB-1' });
  expect(await look('4711')).toBeNull();
  // Digits of a field; one that several have is nobody's.
  await database('record')
    .where({ external_id: 'HB-2' })
    .update({ fields: { pin: '2468' } });
  expect(await look('2468', 'pin')).toMatchObject({ name: 'Customer HB-2' });
  await database('record')
    .where({ external_id: 'HB-3' })
    .update({ fields: { pin: '2468' } });
  expect(await look('2468', 'pin')).toBeNull();
  harbourBook.mood = 'hung';
  await expect(look('1', '', 150)).rejects.toThrow('It did not answer within 0.15 seconds.');
  harbourBook.mood = 'broken';
  await expect(look('1')).rejects.toThrow(/fault of its own/);
  harbourBook.mood = 'well';
  book.get('HB-1')!.fields.tier = 'gold';
  expect(await recordsByDigits(database, ['1', '2468', '99'], '')).toMatchObject({
    1: { name: 'Customer HB-1' },
  });
});

test('results are written back once the other side takes them, and again when the outcome changes', async () => {
  const record = (await recordByNumber(database, '+13605550111'))!;
  const callId = '01998877-1111-7111-8111-111111111111';
  const facts = {
    callId,
    direction: 'inbound' as const,
    to: '+12065550140',
    from: '+13605550111',
    callerName: null,
    numberId: null,
    queueId: null,
    personId: null,
    result: 'abandoned' as const,
    endedBy: 'caller' as const,
    arrivedAt: 1_000,
    answeredAt: null,
    endedAt: 9_000,
    waitedMs: 8_000,
    ...{ queuedMs: null, talkedMs: 0 },
    messageMs: null,
    voicemailBoxId: null,
    offers: 0,
    lastDestination: null,
    standIn: true,
    trunkId: null,
    campaignId: null,
    contactId: null,
    attempt: 0,
    recordId: record.id,
    usages: [],
    sourceId: null,
    ringGroupId: null,
  };
  await writeCalls(database, [{ facts, story: [] }]);
  harbourBook.mood = 'broken';
  await queueWriteBack(database, [{ callId, recordId: record.id }]);
  await database('outbox').update({ next_at: database.fn.now() });
  await sendOutbox(database, seal, outgoing());
  const waiting = await database('outbox').where({ call_id: callId }).first();
  expect(waiting!.attempts).toBeGreaterThanOrEqual(1);
  expect(waiting!.sent_revision).toBe(0);
  expect(waiting!.fault).toMatch(/answered 500/);
  const [view] = (await admin.send<ConnectionView[]>('GET', '/api/connections')).body;
  expect(view!.waiting).toBe(1);
  harbourBook.mood = 'well';
  await database('outbox').update({ next_at: database.fn.now() });
  await sendOutbox(database, seal, outgoing());
  expect(book.get('HB-1')!.calls[callId]).toMatchObject({
    result: 'abandoned',
    number: '+13605550111',
    outcome: null,
  });
  expect(
    (await admin.send('PUT', `/api/desk/calls/${callId}/outcome`, { outcome: 'Call back', note: 'at five' }))
      .status,
  ).toBe(204);
  await database('outbox').update({ next_at: database.fn.now() });
  await sendOutbox(database, seal, outgoing());
  expect(book.get('HB-1')!.calls[callId]).toMatchObject({ outcome: 'Call back', note: 'at five' });
});

test('while it is down, what was read is still known, and the fault is told', async () => {
  harbourBook.mood = 'broken';
  const read = await admin.send<{ ok: boolean; detail: string }>('POST', '/api/connections/read');
  expect(read.body.ok).toBe(false);
  expect(await recordByNumber(database, '+13605550112')).toMatchObject({ name: 'Customer HB-2' });
  const home = await admin.send<{ findings: { code: string }[] }>('GET', '/api/home');
  expect(home.body.findings.map((finding) => finding.code)).toContain('recordsAway');
  harbourBook.mood = 'well';
});

test('one that hangs, answers without end, or is given up on in the middle of a request is said so, and lives', async () => {
  harbourBook.mood = 'hung';
  expect((await test_({ address, key })).body.detail).toMatch(/within 4 seconds/);
  harbourBook.mood = 'huge';
  const before = process.memoryUsage().rss;
  expect((await test_({ address, key })).body.detail).toMatch(/more than is taken/);
  expect(process.memoryUsage().rss - before).toBeLessThan(200_000_000);
  harbourBook.mood = 'slow';
  const { id } = (await recordByNumber(database, '+13605550111'))!;
  const { external_id } = await database('record')
    .where({ id })
    .first<{ external_id: string }>('external_id');
  // Given up on before it answers: what it then does meets a request that is gone.
  const path = `${address}/records/${external_id}/calls/01998877-1111-7111-8111-222222222222`;
  const given = outgoing().ask(path, {
    ...{ method: 'PUT', body: '{"result":"answered"}', timeoutMs: 50, mostBytes: 1_000 },
    secretHeaders: { authorization: `Bearer ${key}` },
  });
  await expect(given).rejects.toMatchObject({ code: 'slow' });
  harbourBook.mood = 'well';
  expect((await test_({ address, key })).body.ok).toBe(true);
});

test('the stored key is sent to the stored address, and nowhere else', async () => {
  const heard: unknown[] = [];
  const elsewhere = createServer((request, response) => {
    heard.push(request.headers.authorization);
    response.end('{}');
  });
  const there = await new Promise<number>((resolve) =>
    elsewhere.listen(0, '127.0.0.1', () => resolve((elsewhere.address() as { port: number }).port)),
  );
  const where = `127.0.0.1:${there}`;
  expect((await admin.send('PUT', `/api/allowed-addresses/${where}`)).status).toBe(204);
  const [stored] = (await admin.send<ConnectionView[]>('GET', '/api/connections')).body;
  const asked = await test_({ id: stored!.id, address: `http://${where}` });
  expect([asked.status, asked.body.errors[0]!.path]).toEqual([422, '/key']);
  const changed = await admin.send<{ errors: { path: string }[] }>(
    'PUT',
    `/api/connections/${stored!.id}`,
    { name: stored!.name, address: `http://${where}`, link: '' },
    { 'if-match': `"${stored!.version}"` },
  );
  expect([changed.status, changed.body.errors[0]!.path]).toEqual([422, '/key']);
  expect(heard).toEqual([]);
  expect((await test_({ id: stored!.id, address })).body.ok).toBe(true);
  expect((await admin.send('DELETE', `/api/allowed-addresses/${where}`)).status).toBe(204);
  elsewhere.close();
});

test('an address on this machine is asked once an administrator allows it, and they see who did', async () => {
  const other = new HarbourBook(book, key);
  const there = await other.listen(0);
  const at = `http://127.0.0.1:${there}/api`;
  const refused = (await test_({ address: at, key })).body;
  expect(refused).toMatchObject({ ok: false, mayAllow: `127.0.0.1:${there}` });
  expect(refused.detail).toMatch(/is on this machine/);
  await admin.send('PUT', `/api/allowed-addresses/${refused.mayAllow}`);
  expect((await test_({ address: at, key })).body.ok).toBe(true);
  const list = (
    await admin.send<{ address: string; by: string | null; byOperator: boolean }[]>(
      'GET',
      '/api/allowed-addresses',
    )
  ).body;
  expect(list).toContainEqual(
    expect.objectContaining({ address: refused.mayAllow, by: 'Ada Admin', byOperator: false }),
  );
  expect(list).toContainEqual(expect.objectContaining({ address: `127.0.0.1:${port}`, byOperator: true }));
  await admin.send('DELETE', `/api/allowed-addresses/${refused.mayAllow}`);
  expect((await test_({ address: at, key })).body.ok).toBe(false);
  expect((await admin.send('DELETE', `/api/allowed-addresses/127.0.0.1:${port}`)).status).toBe(404);
  expect((await admin.send('PUT', '/api/allowed-addresses/everything')).status).toBe(422);
  await other.close();
});

test('an agent opens records of their own calls and of their queues, no others', async () => {
  const { browser, made } = await personSignedIn(night, admin, 'Reads Some', 'agent');
  const idOf = async (number: string) => (await recordByNumber(database, number))!.id;
  const [own, queued] = [await idOf('+13605550111'), await idOf('+13605550112')];
  const read = async (id: string) => (await browser.send('GET', `/api/records/${id}`)).status;
  expect([await read(own), await read(queued)]).toEqual([403, 403]);
  const queue = (
    await admin.send<{ id: string; version: number }>('POST', '/api/queues', {
      name: 'Bookings',
      members: [made.id],
    })
  ).body;
  await database('call').update({ record_id: queued, queue_id: queue.id });
  expect([await read(own), await read(queued)]).toEqual([403, 200]);
  await database('call').update({ record_id: own, queue_id: null, person_id: made.id });
  expect([await read(own), await read(queued)]).toEqual([200, 403]);
  expect((await admin.send('GET', `/api/records/${queued}`)).status).toBe(200);
});

test('sources: figures by the same definitions as the list of calls, exact cost', async () => {
  const source = (
    await admin.send<{ id: string }>('POST', '/api/sources', {
      name: 'Poster',
      kind: 'poster',
      cost: '310.00',
      fromDay: '1970-01-01',
    })
  ).body;
  await database('call').update({ source_id: source.id });
  // The call was at 0:00:01 UTC of 1 January 1970: the evening before, by the company's clock.
  const early = await admin.send<{ rows: Record<string, unknown>[] }>(
    'GET',
    '/api/source-report?from=1969-12-31&to=1970-01-31',
  );
  expect(early.body.rows[0]).toMatchObject({
    calls: 1,
    answered: 0,
    lost: 1,
    firstTime: 1,
    good: 0,
    cost: '310.00',
  });
  const calls = await admin.send<{ calls: unknown[] }>(
    'GET',
    `/api/calls?sourceId=${source.id}&lost=true&firstTime=true`,
  );
  expect(calls.body.calls).toHaveLength(1);
  expect(
    (
      await admin.send<{ errors: { path: string }[] }>('POST', '/api/sources', {
        name: 'X',
        cost: '1,5',
        fromDay: '2026-01-01',
      })
    ).body.errors[0]!.path,
  ).toBe('/cost');
});

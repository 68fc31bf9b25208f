import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { type Browser, firstAdministrator, freshDatabase, seal, startServer } from '../../server.testing.ts';
import { Book, type BookRecord } from '../../../../standins/src/harbour-book/book.ts';
import { HarbourBook } from '../../../../standins/src/harbour-book/server.ts';
import { writeCalls } from '../../live/log.queries.ts';
import { queueWriteBack, sendOutbox } from './outbox.ts';
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
  night = await startServer(database);
  admin = await firstAdministrator(night, database);
  book = new Book(join(memory, 'book.json'), () => [
    customer('HB-1', '(360) 555-0111', 'ada'),
    customer('HB-2', '+1 360 555 0112', null),
    customer('HB-3', 'not a number', null),
  ]);
  harbourBook = new HarbourBook(book, key);
  port = await harbourBook.listen(0);
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

const test_ = (body: object) =>
  admin.send<{ ok: boolean; detail: string }>('POST', '/api/connections/test', body);

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
  expect(row.key_sealed).not.toContain(key);
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
    talkedMs: 0,
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
    ways: [],
    sourceId: null,
  };
  await writeCalls(database, [{ facts, story: [] }]);
  harbourBook.mood = 'broken';
  await queueWriteBack(database, [{ callId, recordId: record.id }]);
  await database('outbox').update({ next_at: database.fn.now() });
  await sendOutbox(database, seal);
  const waiting = await database('outbox').where({ call_id: callId }).first();
  expect(waiting.attempts).toBeGreaterThanOrEqual(1);
  expect(waiting.sent_revision).toBe(0);
  expect(waiting.fault).toMatch(/answered 500/);
  const [view] = (await admin.send<ConnectionView[]>('GET', '/api/connections')).body;
  expect(view!.waiting).toBe(1);
  harbourBook.mood = 'well';
  await database('outbox').update({ next_at: database.fn.now() });
  await sendOutbox(database, seal);
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
  await sendOutbox(database, seal);
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

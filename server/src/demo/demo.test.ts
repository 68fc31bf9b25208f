import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { exchangeOver } from '@night-bell/core/exchange/exchange';
import type { StoryRecord } from '@night-bell/core/story/records';
import { testCallAt } from '@night-bell/core/rehearse/test-call';
import type { Database } from '../database/connection.ts';
import { compileConfiguration } from '../live/compile.ts';
import { freshDatabase, seal } from '../server.testing.ts';
import { openHarbourBook } from './harbour-book.testing.ts';
import { type DemoPhones, ensureDemo } from './load.ts';

const folder = fileURLToPath(new URL('../../../demo', import.meta.url));
let database: Database;
let drop: () => Promise<void>;
let phones: DemoPhones;
const sailingBot = { address: 'http://127.0.0.1:1', key: 'key of the bot' };
let harbourBook: Awaited<ReturnType<typeof openHarbourBook>>;

beforeAll(async () => {
  ({ database, drop } = await freshDatabase());
  harbourBook = await openHarbourBook(folder);
  phones = await ensureDemo(database, seal, folder, { harbourBook: harbourBook.door, sailingBot }, null);
});
afterAll(async () => {
  await harbourBook.close();
  await drop();
});

test('the demo company is loaded once, with phones for the stand-ins to enrol', async () => {
  expect(phones.enrol.length).toBe(35);
  expect(phones.typed).toMatchObject([
    { name: 'Amadou Sarr', misbehaves: 'wrongSecret' },
    { name: 'Wes Odell', misbehaves: 'behindRouter' },
    { name: 'Gwen Harrow', misbehaves: 'wrongTransport' },
    { name: 'Fiona Mactier', misbehaves: 'oddCodecs', codecs: ['G722'] },
  ]);
  expect(
    await ensureDemo(database, seal, folder, { harbourBook: harbourBook.door, sailingBot }, null),
  ).toEqual({ enrol: [], typed: [] });
  const count = (await database('person').pluck('id')).length;
  expect(count).toBe(46);
});

test('sample numbers are made up: 555-0100 to 555-0199 everywhere', async () => {
  const rows = await database('call').select('dialled', 'caller');
  const numbers = new Set<string>(rows.flatMap((row) => [row.dialled as string, row.caller as string]));
  for (const number of await database('number').pluck('e164')) numbers.add(number as string);
  expect([...numbers].filter((number) => !/^\+1[2-9]\d\d55501\d\d$/.test(number))).toEqual([]);
});

test('the past came out of the exchange: whole stories, one end each, answered by who was chosen', async () => {
  const calls =
    await database('call').select<
      { result: string; person_id: string | null; story: StoryRecord[]; rehearsed: boolean; ended_at: Date }[]
    >();
  expect(calls.length).toBeGreaterThan(1_000);
  for (const call of calls) {
    expect(call.rehearsed).toBe(true);
    expect(['arrived', 'launched']).toContain(call.story[0]!.kind);
    expect(call.story.filter((record) => record.kind === 'ended')).toHaveLength(1);
    // Who called a caller back talked with them as whoever answered one.
    const answered = call.story.find(
      (record) => record.kind === 'answered' || (record.kind === 'calledBack' && record.personId !== null),
    );
    expect(call.person_id).toBe(answered !== undefined && 'personId' in answered ? answered.personId : null);
    expect(call.result === 'answered').toBe(answered !== undefined);
    expect(call.ended_at.getTime()).toBeLessThanOrEqual(Date.now());
  }
});

test('the past holds call-backs that were kept, and waits that got easier', async () => {
  const told = async (kind: string) =>
    Number(
      (
        await database('call')
          .whereRaw(`exists (select 1 from json_array_elements(story) r where r->>'kind' = ?)`, [kind])
          .count<{ count: string }[]>('* as count')
      )[0]!.count,
    );
  // How many there are changes with the day on which the demo begins.
  expect(await told('callBackPromised')).toBeGreaterThan(0);
  expect(await told('calledBack')).toBeGreaterThan(0);
  expect(await told('announced')).toBeGreaterThan(5);
  expect(await told('easierToServe')).toBeGreaterThan(5);
});

test('the past has both directions, by every kind of phone, with records, sources and outcomes', async () => {
  const count = async (where: string) =>
    (await database('call as c').whereRaw(where).count<{ count: string }[]>('* as count'))[0]!
      .count as unknown as number;
  expect(await count(`direction = 'outbound' and result = 'answered'`)).toBeGreaterThan(50);
  expect(await count(`direction = 'outbound' and record_id is null`)).toBe(0);
  expect(await count(`source_id is not null`)).toBeGreaterThan(100);
  expect(await count(`direction = 'inbound' and record_id is not null`)).toBeGreaterThan(300);
  for (const phone of ['softphone', 'homeSoftphone', 'outside'])
    expect(await count(`story::text like '%"phone":"${phone}"%'`)).toBeGreaterThan(5);
  expect(await count(`story::text like '%"why":"recordOwner"%'`)).toBeGreaterThan(5);
  const contacts = await database('contact as k')
    .join('item as i', 'i.id', 'k.campaign_id')
    .where('i.name', 'Winter timetable change')
    .groupBy('k.state')
    .select<{ state: string; count: number }[]>('k.state', database.raw('count(*)::int as count'));
  expect(contacts.find((each) => each.state === 'talked')!.count).toBeGreaterThan(50);
  expect(contacts.find((each) => each.state === 'due')!.count).toBeGreaterThan(50);
  // Nobody who opted out was called afterwards.
  const again = await database('call as c')
    .join('opt_out as o', 'o.e164', 'c.dialled')
    .where('c.direction', 'outbound')
    .whereRaw('c.id <> o.call_id and c.arrived_at > (select arrived_at from call b where b.id = o.call_id)')
    .pluck('c.id');
  expect(again).toEqual([]);
});

test('every number of the demo leads where its row says, when everybody is there', async () => {
  const configuration = await compileConfiguration(database);
  expect(exchangeOver(configuration, 0).view().queues.size).toBe(7);
  const outcomes = configuration.numbers.map((number) => {
    const call = { to: number.e164, from: '+13605550117', at: 1_000 };
    return [number.label, testCallAt(configuration, call, () => 180_000).outcome.kind];
  });
  expect(Object.fromEntries(outcomes)).toEqual({
    'Freight fax': 'faxTone',
    'Old freight number': 'answered',
    'Main line': 'answered',
    'Toll-free bookings': 'answered',
    'Freight direct': 'answered',
    'Disruption line': 'answered',
    Groups: 'answered',
    'Lost property': 'answered',
    'Ligne en français': 'answered',
    Refunds: 'answered',
    'Terminal Gull Harbour': 'answered',
    'Terminal Stornay Quay': 'answered',
    'Old brochure line': 'voicemail',
    'Island line': 'ended',
    'Night boat radio spot': 'ended',
  });
});

import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { exchangeOver } from '@night-bell/core/exchange/exchange';
import type { StoryRecord } from '@night-bell/core/exchange/records';
import { testCallAt } from '@night-bell/core/rehearse/test-call';
import type { Database } from '../database/connection.ts';
import { compileConfiguration } from '../live/compile.ts';
import { freshDatabase, seal } from '../server.testing.ts';
import { type DemoPhones, ensureDemo } from './load.ts';

const folder = fileURLToPath(new URL('../../../demo', import.meta.url));
let database: Database;
let drop: () => Promise<void>;
let phones: DemoPhones;

beforeAll(async () => {
  const fresh = await freshDatabase();
  ({ database, drop } = fresh);
  phones = await ensureDemo(database, seal, folder);
});
afterAll(() => drop());

test('the demo company is loaded once, with phones for the stand-ins to enrol', async () => {
  expect(phones.enrol.length).toBe(40);
  expect(phones.typed).toMatchObject([{ name: 'Amadou Sarr' }]);
  expect(await ensureDemo(database, seal, folder)).toEqual({ enrol: [], typed: [] });
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
    expect(call.story[0]!.kind).toBe('arrived');
    expect(call.story.filter((record) => record.kind === 'ended')).toHaveLength(1);
    const answered = call.story.find((record) => record.kind === 'answered');
    expect(call.person_id).toBe(answered?.kind === 'answered' ? answered.personId : null);
    expect(call.result === 'answered').toBe(answered !== undefined);
    expect(call.ended_at.getTime()).toBeLessThanOrEqual(Date.now());
  }
});

test('every number of the demo leads where its row says, when everybody is there', async () => {
  const configuration = await compileConfiguration(database);
  expect(exchangeOver(configuration, 0).view().queues.size).toBe(7);
  const outcomes = configuration.numbers.map((number) => {
    const call = { to: number.e164, from: '+13605550117', at: 1_000 };
    return [number.label, testCallAt(configuration, call, () => 180_000).outcome.kind];
  });
  expect(Object.fromEntries(outcomes)).toEqual({
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

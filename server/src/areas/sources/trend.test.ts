import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Database } from '../../database/connection.ts';
import { newId } from '../../spine/items.ts';
import { type Browser, openNight } from '../../server.testing.ts';

interface Step {
  day: string;
  calls: number;
  answered: number;
  good: number;
  cost: string;
  costPerGood: string | null;
}

let database: Database;
let admin: Browser;
let drop: () => Promise<void>;
let id: string;

beforeAll(async () => {
  ({ database, admin, drop } = await openNight());
  id = (
    await admin.send<{ id: string }>('POST', '/api/sources', {
      ...{ name: 'Poster', kind: 'poster', cost: '31.00', costPer: 'month', fromDay: '2026-10-01' },
    })
  ).body.id;
  // The company's midnight is 08:00 UTC until the clocks go back on 1 November, and 07:00 before: a call at 07:30 is of the day before or not.
  await call('2026-10-31T07:30:00Z', 'answered', 200);
  await call('2026-10-31T06:30:00Z', 'answered', 5);
  await call('2026-11-02T07:30:00Z', 'abandoned', 0);
  await call('2026-11-02T08:30:00Z', 'answered', 400);
});
afterAll(() => drop());

async function call(at: string, result: string, talkedSeconds: number): Promise<void> {
  await database('call').insert({
    ...{ id: newId(), direction: 'inbound', dialled: '+12065550140', caller: '+13605550117', source_id: id },
    ...{
      arrived_at: at,
      ended_at: at,
      result,
      ended_by: 'caller',
      waited_ms: 0,
      talked_ms: talkedSeconds * 1_000,
    },
    ...{ offers: 0, stand_in: false, story: '[]' },
  });
}
const trend = (query: string) => admin.send<Step[]>('GET', `/api/sources/${id}/trend?${query}`);

test('by days of the company’s clock, also where it is put back; days without a call are there', async () => {
  const { body } = await trend('from=2026-10-30&to=2026-11-02');
  expect(body.map(({ day, calls, answered, good }) => [day, calls, answered, good])).toEqual([
    ['2026-10-30', 1, 1, 0],
    ['2026-10-31', 1, 1, 1],
    ['2026-11-01', 1, 0, 0],
    ['2026-11-02', 1, 1, 1],
  ]);
  // 31 dollars over the 31 days of October; November has thirty.
  expect(body.map(({ cost, costPerGood }) => [cost, costPerGood])).toEqual([
    ['1.00', null],
    ['1.00', '1.00'],
    ['1.03', null],
    ['1.03', '1.03'],
  ]);
});

test('by weeks from Monday, the first one whole', async () => {
  const { body } = await trend('from=2026-10-30&to=2026-11-02&by=week');
  expect(body.map(({ day, calls, good }) => [day, calls, good])).toEqual([
    ['2026-10-26', 3, 1],
    ['2026-11-02', 1, 1],
  ]);
});

test('too long a stretch, a step that is none, and a source that is none are refused', async () => {
  const long = await admin.send<{ errors: { path: string; detail: string }[] }>(
    'GET',
    `/api/sources/${id}/trend?from=2020-01-01&to=2026-01-01`,
  );
  expect([long.status, long.body.errors[0]!.detail]).toEqual([
    422,
    expect.stringContaining('At most 400 days'),
  ]);
  expect((await trend('from=2026-10-30&to=2026-11-02&by=year')).status).toBe(422);
  expect(
    (await admin.send('GET', `/api/sources/${newId()}/trend?from=2026-10-30&to=2026-11-02`)).status,
  ).toBe(404);
});

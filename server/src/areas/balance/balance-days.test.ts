import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight } from '../../server.testing.ts';
import type { BalanceDay } from './days.queries.ts';

let database: Database;
let admin: Browser;
let drop: () => Promise<void>;

beforeAll(async () => {
  ({ database, admin, drop } = await openNight());
  await database('installation').update({ time_zone: 'America/New_York' });
  const entry = (at: string, amount: string) =>
    database('ledger_entry').insert({ at, amount, kind: Number(amount) > 0 ? 'topUp' : 'call', what: 'w' });
  await entry('2026-01-10T12:00:00Z', '50');
  // 23:30 of the 11th in New York.
  await entry('2026-01-12T04:30:00Z', '-0.0135');
  await entry('2026-01-13T15:00:00Z', '-2.5');
  await entry('2026-01-13T16:00:00Z', '10');
});
afterAll(() => drop());

const days = async (from: string, to: string) =>
  (await admin.send<BalanceDay[]>('GET', `/api/balance/days?from=${from}&to=${to}`)).body;
const plain = (of: BalanceDay[]) =>
  of.map(({ day, balance, paidIn, spent }) => [day, ...[balance, paidIn, spent].map(Number)]);

test('each day ends with its balance, to the ten-thousandth, by the company’s clock; days without a movement too', async () => {
  expect(plain(await days('2026-01-10', '2026-01-14'))).toEqual([
    ['2026-01-10', 50, 50, 0],
    ['2026-01-11', 49.9865, 0, 0.0135],
    ['2026-01-12', 49.9865, 0, 0],
    ['2026-01-13', 57.4865, 10, 2.5],
    ['2026-01-14', 57.4865, 0, 0],
  ]);
});

test('what moved before the first day is in its balance; days to come are not drawn', async () => {
  expect(plain(await days('2026-01-14', '2026-01-14'))).toEqual([['2026-01-14', 57.4865, 0, 0]]);
  expect(await days('2126-01-01', '2126-01-03')).toEqual([]);
});

test('more than 400 days at once are refused with what to do', async () => {
  const refused = await admin.send<{ errors: { detail: string }[] }>(
    'GET',
    '/api/balance/days?from=2024-01-01&to=2026-01-01',
  );
  expect([refused.status, refused.body.errors[0]!.detail]).toEqual([422, 'At most 400 days at once.']);
});

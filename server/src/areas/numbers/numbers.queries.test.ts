import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight, walkPages } from '../../server.testing.ts';
import { numberOrders } from './numbers.queries.ts';
import type { NumberView } from './store.ts';

let night: NightBell;
let database: Database;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight());
  for (let last = 0; last < 9; last++)
    await admin.send('POST', '/api/numbers', {
      e164: `+1206555010${last}`,
      label: `Advert ${9 - last}`,
      destination: last % 3 === 0 ? null : { kind: 'end' },
    });
  await database('number')
    .where('e164', '+12065550104')
    .update({
      rented_at: new Date(),
      monthly: '1.25',
      reports: JSON.stringify([{ by: 'a list', on: '2026-11-01' }]),
    });
});
afterAll(() => drop());

const walk = (query: string) => walkPages<NumberView>(night, admin, `/api/numbers?${query}`);
const lasts = async (query: string) => (await walk(query)).map(({ e164 }) => e164.slice(-1)).join('');

test.each(numberOrders)(
  'sorted by %s, stretches join to the whole, and upside down to its mirror',
  async (sort) => {
    const whole = await walk(`sort=${sort}`);
    expect(whole).toHaveLength(9);
    for (const limit of [1, 2, 4]) expect(await walk(`sort=${sort}&limit=${limit}`)).toEqual(whole);
    expect(await walk(`sort=${sort}&down=true&limit=2`)).toEqual([...whole].reverse());
  },
);

test('those that lead nowhere come first; other orders sort as they say', async () => {
  expect(await lasts('')).toBe('036124578');
  expect(await lasts('sort=number')).toBe('012345678');
  expect(await lasts('sort=label')).toBe('876543210');
  expect((await lasts('sort=monthly&down=true'))[0]).toBe('4');
});

test('narrowed to a kind, to digits and to both', async () => {
  expect(await lasts('only=unrouted')).toBe('036');
  expect(await lasts('only=rented')).toBe('4');
  expect(await lasts('only=reported')).toBe('4');
  expect(await lasts('only=unrouted&search=advert%206')).toBe('3');
  expect(await lasts('search=0107')).toBe('7');
  const wrong = await admin.send<{ errors: { path: string }[] }>('GET', '/api/numbers?only=lost');
  expect([wrong.status, wrong.body.errors[0]!.path]).toEqual([422, 'only']);
});

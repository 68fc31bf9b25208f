import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight } from '../../server.testing.ts';
import { newId } from '../../spine/items.ts';
import type { HalfHour } from './times.queries.ts';

let database: Database;
let admin: Browser;
let drop: () => Promise<void>;
let numberId: string;
let other: string;

beforeAll(async () => {
  ({ database, admin, drop } = await openNight());
  await database('installation').update({ time_zone: 'America/New_York' });
  const number = (e164: string) =>
    admin
      .send<{ id: string }>('POST', '/api/numbers', { e164, label: e164, destination: { kind: 'end' } })
      .then(({ body }) => body.id);
  [numberId, other] = [await number('+12065550140'), await number('+12065550141')];
  // 14:29 UTC is 9:29 in New York in winter and 10:29 in summer.
  await call('2026-01-15T14:29:59Z', 'answered', numberId);
  await call('2026-01-15T14:30:00Z', 'abandoned', numberId);
  await call('2026-07-15T14:29:59Z', 'voicemail', numberId);
  await call('2026-07-15T14:29:59Z', 'answered', other);
  await call('2026-07-15T14:29:59Z', 'answered', numberId, 'outbound');
});
afterAll(() => drop());

async function call(at: string, result: string, of: string, direction = 'inbound'): Promise<void> {
  const [arrived, ended] = [new Date(at), new Date(Date.parse(at) + 60_000)];
  await database('call').insert({
    ...{ id: newId(), direction, dialled: '+12065550140', caller: '+13605550117', number_id: of, result },
    ...{
      arrived_at: arrived,
      ended_at: ended,
      ended_by: 'caller',
      waited_ms: 0,
      talked_ms: 0,
      offers: 0,
      stand_in: true,
      story: '[]',
    },
  });
}
const times = async (query: string) => (await admin.send<HalfHour[]>('GET', `/api/call-times?${query}`)).body;

test('calls are counted by half hours of the company’s clock, summer and winter', async () => {
  expect(await times(`numberId=${numberId}&from=2026-01-01&to=2026-12-31`)).toEqual([
    { half: 18, calls: 1, answered: 1, lost: 0, inTime: null },
    { half: 19, calls: 1, answered: 0, lost: 1, inTime: null },
    { half: 20, calls: 1, answered: 0, lost: 0, inTime: null },
  ]);
});

test('days are those of the company: the last is counted whole, what is beside them not', async () => {
  expect((await times(`numberId=${numberId}&from=2026-01-15&to=2026-01-15`)).map(({ half }) => half)).toEqual(
    [18, 19],
  );
  expect(await times(`numberId=${numberId}&from=2026-01-16&to=2026-07-14`)).toEqual([]);
});

test('a day that is none is refused at its place', async () => {
  const bad = await admin.send<{ errors: { path: string }[] }>('GET', '/api/call-times?from=2026-02-30&to=x');
  expect([bad.status, bad.body.errors[0]!.path]).toEqual([422, 'from']);
});

import { afterAll, beforeAll, expect, test } from 'vitest';
import { directions } from '@night-bell/core/story/facts';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight } from '../../server.testing.ts';
import { newId } from '../../spine/items.ts';

let database: Database;
let admin: Browser;
let drop: () => Promise<void>;

beforeAll(async () => {
  ({ database, admin, drop } = await openNight());
  for (const [index, direction] of directions.entries()) {
    const at = new Date(Date.UTC(2026, 10, 20, 12, index));
    const id = newId();
    const story = [{ callId: id, at: +at, kind: 'dialledBy', personId: id, name: 'Ann', to: '+13605550117' }];
    await database('call').insert({
      ...{ id, direction, dialled: '+13605550117', caller: '+12065550140', result: 'answered' },
      ...{ ended_by: 'agent', arrived_at: at, ended_at: at, waited_ms: 0, talked_ms: 1_000, offers: 0 },
      ...{ stand_in: true, story: JSON.stringify(story) },
    });
  }
});
afterAll(() => drop());

interface List {
  calls: { id: string; direction: string }[];
}
const list = async (query: string) => (await admin.send<List>('GET', `/api/calls?${query}`)).body.calls;

test.each(directions)('calls are narrowed to those that are %s, and each can be read', async (direction) => {
  const found = await list(`direction=${direction}`);
  expect(found.map((each) => each.direction)).toEqual([direction]);
  expect((await admin.send('GET', `/api/calls/${found[0]!.id}`)).status).toBe(200);
});

test('lines held are listed only where they are asked for; what is no direction is refused', async () => {
  expect((await list('')).map(({ direction }) => direction)).toEqual(['dialled', 'outbound', 'inbound']);
  expect((await admin.send('GET', '/api/calls?direction=sideways')).status).toBe(422);
});

test('how many ended how is counted with the first rows only, and not where nobody asked', async () => {
  const totals = async (query: string) =>
    (await admin.send<{ totals: { result: string; count: number }[] }>('GET', `/api/calls?${query}`)).body
      .totals;
  const all = [{ result: 'answered', count: 3 }];
  expect(await totals('limit=1')).toEqual(all);
  expect(await totals('totals=false')).toEqual([]);
  const [newest] = (await admin.send<List>('GET', '/api/calls?limit=1&totals=false')).body.calls;
  expect(await totals(`behind=${newest!.id}`)).toEqual([]);
  expect(await totals('direction=inbound')).toEqual([{ result: 'answered', count: 1 }]);
  expect((await admin.send('GET', '/api/calls?totals=perhaps')).status).toBe(422);
});

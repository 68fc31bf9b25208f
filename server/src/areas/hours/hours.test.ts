import { afterAll, beforeAll, expect, test } from 'vitest';
import type { HoursDraft, HoursView } from '@night-bell/core/contracts/opening-hours';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn } from '../../server.testing.ts';

interface Refusal {
  code: string;
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
});
afterAll(() => drop());

const weekdays: HoursDraft['weekly'] = [0, 1, 2, 3, 4].map(() => [[540, 1_020] as const]);
const bookings: HoursDraft = {
  name: 'Bookings',
  zone: 'America/Los_Angeles',
  weekly: [...weekdays, [], []],
  days: [{ date: '2099-12-25', name: 'Christmas Day', holiday: true, ranges: [] }],
};
const make = <T = HoursView>(draft: unknown) => admin.send<T>('POST', '/api/opening-hours', draft);
const always = { ...bookings, weekly: bookings.weekly.map(() => [[0, 1_440]]), days: [] };

test('a set is made, read with how it stands, changed, and a change is taken back', async () => {
  const { status, body: set } = await make(bookings);
  expect(status).toBe(200);
  expect(set).toMatchObject({
    ...bookings,
    version: 1,
    storm: null,
    uses: 0,
    nextDay: { name: 'Christmas Day' },
  });
  expect(set.nextChange).toBeGreaterThan(Date.now());
  expect(set.clockChanges.length).toBeGreaterThan(4);
  const changed = await admin.send<HoursView>(
    'PUT',
    `/api/opening-hours/${set.id}`,
    { ...bookings, days: [] },
    { 'if-match': '"1"' },
  );
  expect(changed.body).toMatchObject({ days: [], nextDay: null, version: 2 });
  expect(
    (await admin.send('PUT', `/api/opening-hours/${set.id}`, bookings, { 'if-match': '"1"' })).status,
  ).toBe(412);
  const history = (await admin.send<{ id: number; what: string }[]>('GET', `/api/items/${set.id}/history`))
    .body;
  expect((await admin.send('POST', `/api/changes/${history[0]!.id}/take-back`)).status).toBe(204);
  const { body } = await admin.send<{ item: HoursView }>('GET', `/api/opening-hours/${set.id}`);
  expect(body.item.days).toEqual(bookings.days);
});

test.each([
  [
    'a zone nobody knows',
    { zone: 'Foo/Bar' },
    '/zone',
    'Foo/Bar is no time zone that is known here. Choose one from the list.',
  ],
  ['six days', { weekly: bookings.weekly.slice(1) }, '/weekly', 'A week has seven days, Monday first.'],
  [
    'ranges that overlap',
    {
      weekly: [
        [
          [540, 720],
          [700, 800],
        ],
        ...bookings.weekly.slice(1),
      ],
    },
    '/weekly/0',
    '09:00 to 12:00 and 11:40 to 13:20 overlap. Make them one, or end the first earlier.',
  ],
  [
    'a range of no length',
    { weekly: [[[540, 540]], ...bookings.weekly.slice(1)] },
    '/weekly/0/0',
    'A range has a start before 24:00 and another time as its end.',
  ],
  [
    'a day that is none',
    { days: [{ ...bookings.days[0]!, date: '2026-02-30' }] },
    '/days/0/date',
    'A day looks like 2026-12-25.',
  ],
  [
    'a day twice',
    { days: [bookings.days[0]!, bookings.days[0]!] },
    '/days',
    '2099-12-25 is there twice. Keep one of them.',
  ],
])('%s is refused at its place, and nothing is kept', async (_what, spoilt, path, detail) => {
  const before = (await admin.send<HoursView[]>('GET', '/api/opening-hours')).body.length;
  const { status, body } = await make<Refusal>({ ...bookings, name: 'Spoilt', ...spoilt });
  expect(status).toBe(422);
  expect(body.errors).toEqual([{ path, detail }]);
  expect((await admin.send<HoursView[]>('GET', '/api/opening-hours')).body).toHaveLength(before);
});

test('a storm closes sets until an instant, by a supervisor too; it is called off, and stands in the history', async () => {
  const { body: set } = await make({ ...always, name: 'Terminal' });
  expect(set).toMatchObject({ state: 'open', nextChange: null });
  const { browser: supervisor } = await personSignedIn(night, admin, 'Sana Super', 'supervisor');
  const until = Date.now() + 3_600_000;
  const storm = (browser: Browser, body: unknown) => browser.send<HoursView[]>('POST', '/api/storm', body);
  expect((await storm(supervisor, { ids: [set.id], until })).body).toMatchObject([
    { state: 'storm', nextChange: until, storm: { until, by: 'Sana Super' } },
  ]);
  expect((await storm(supervisor, { ids: [set.id], until: null })).body).toMatchObject([
    { state: 'open', storm: null },
  ]);
  const history = await admin.send<{ what: string; by: string }[]>('GET', `/api/items/${set.id}/history`);
  expect(history.body.map(({ what }) => what)).toEqual(['stormOver', 'storm', 'created']);
  const refused = await admin.send<Refusal>('POST', '/api/storm', { ids: [set.id], until: Date.now() - 1 });
  expect(refused.body.errors).toEqual([{ path: '/until', detail: 'A storm ends later than now.' }]);
  expect((await storm(admin, { ids: ['00000000-0000-7000-8000-000000000000'], until })).status).toBe(404);
  const { browser: agent } = await personSignedIn(night, admin, 'Abe Agent', 'agent');
  expect((await storm(agent, { ids: [set.id], until })).status).toBe(403);
  expect((await supervisor.send('POST', '/api/opening-hours', bookings)).status).toBe(403);
});

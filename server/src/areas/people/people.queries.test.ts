import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, until, walkPages } from '../../server.testing.ts';
import type { PersonRow } from './people.queries.ts';

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;
const teams: Record<string, string> = {};
const names = [
  'Zoë Quay',
  'Ann Lee 2',
  'ann lee 10',
  'Åsa Berg',
  'bo ray',
  'Cy Lee',
  'Dan O’Hara',
  'Élan Vital',
];

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
  for (const name of ['Freight', 'Bookings'])
    teams[name] = (await admin.send<{ id: string }>('POST', '/api/teams', { name })).body.id;
  for (const [index, name] of names.entries())
    await admin.send('POST', '/api/people', {
      name,
      teamId: index % 3 === 0 ? null : teams[index % 3 === 1 ? 'Freight' : 'Bookings'],
    });
});
afterAll(() => drop());

const page = (query: string) =>
  night.app.inject({ method: 'GET', url: `/api/people?${query}`, headers: { cookie: admin.cookieHeader } });
const rows = async (query: string) => (await page(query)).json<PersonRow[]>();

const walk = (query: string) => walkPages<PersonRow>(night, admin, `/api/people?${query}`);

test.each(['extension', 'name', 'team', 'state', 'phone'])(
  'sorted by %s, stretches of any length join to the whole, each person once, and upside down to its mirror',
  async (sort) => {
    const whole = await rows(`sort=${sort}`);
    expect(new Set(whole.map(({ id }) => id)).size).toBe(names.length + 1);
    for (const limit of [1, 2, 3, 7, 9, 10]) expect(await walk(`sort=${sort}&limit=${limit}`)).toEqual(whole);
    expect(await walk(`sort=${sort}&down=true&limit=2`)).toEqual([...whole].reverse());
  },
);

test('names are in the order of a book: without regard to case and accents, numbers by their size', async () => {
  expect((await rows('sort=name')).map(({ name }) => name)).toEqual([
    ...['Ada Admin', 'Ann Lee 2', 'ann lee 10', 'Åsa Berg', 'bo ray', 'Cy Lee', 'Dan O’Hara', 'Élan Vital'],
    'Zoë Quay',
  ]);
  const byTeam = (await rows('sort=team')).map(({ teamName }) => teamName);
  expect([...new Set(byTeam)]).toEqual(['Bookings', 'Freight', null]);
  expect(byTeam).toEqual([...byTeam].sort((one, other) => (one ?? 'None').localeCompare(other ?? 'None')));
});

test('narrowed by words, team, queue and skill, with how many that are', async () => {
  expect((await rows('search=lee&sort=name')).map(({ name }) => name)).toEqual([
    'Ann Lee 2',
    'ann lee 10',
    'Cy Lee',
  ]);
  expect((await rows('search=elan')).map(({ name }) => name)).toEqual(['Élan Vital']);
  expect((await rows('search=hara%20dan')).map(({ name }) => name)).toEqual(['Dan O’Hara']);
  const ofTeam = await page(`teamId=${teams.Freight}&limit=1&total=true`);
  expect([ofTeam.headers['total-count'], ofTeam.json<PersonRow[]>().length]).toEqual(['3', 1]);
  expect((await page('total=true&limit=3')).headers['total-count']).toBe(String(names.length + 1));
  const direct = (await rows('search=zoe'))[0]!;
  const queue = (
    await admin.send<{ id: string }>('POST', '/api/queues', {
      name: 'Both',
      members: [teams.Freight, direct.id],
    })
  ).body;
  const members = await rows(`queueId=${queue.id}&sort=name`);
  expect(members).toHaveLength(4);
  expect(members.every(({ queues }) => queues.some(({ name }) => name === 'Both'))).toBe(true);
  expect(await rows(`queueId=${queue.id}&search=zoe`)).toHaveLength(1);
  expect(await rows(`skillId=${queue.id}`)).toEqual([]);
});

test('who is asked for by id comes in stretches too', async () => {
  const ids = (await rows('sort=name')).slice(0, 3).map(({ id }) => id);
  const asked = ids.map((id) => `ids=${id}`).join('&');
  expect((await walk(`sort=name&limit=1&${asked}`)).map(({ id }) => id)).toEqual(ids);
});

test('live states narrow and sort: who is signed in stands before who is not', async () => {
  const { id } = (await personSignedIn(night, admin, 'On Duty', 'agent')).made;
  await until(() => night.live.exchange.view().agents.has(id), 'the exchange knows them');
  for (const state of [{ state: 'available' }, { state: 'away', reason: 'break' }])
    expect((await admin.send('POST', `/api/people/${id}/state`, state)).status).toBe(204);
  await until(async () => (await rows('state=away')).length === 1, 'they are away');
  expect((await rows('sort=state')).map((row) => row.id)[0]).toBe(id);
  expect((await rows('sort=state&down=true')).map((row) => row.id).at(-1)).toBe(id);
  expect((await rows('state=signedOut')).some((row) => row.id === id)).toBe(false);
});

test('a place that is none is refused; so is a stretch that is too long, and a role that may not read', async () => {
  for (const query of ['after=x', 'after=WyJhIl0', 'limit=0', 'limit=1001', 'sort=shoe', 'teamId=1']) {
    const answer = await page(query);
    expect(answer.statusCode, query).toBe(422);
    expect(answer.json<{ errors: { detail: string }[] }>().errors[0]!.detail).toMatch(/\.$/);
  }
  // The place of another order is none of this one.
  const link = String((await page('sort=team&limit=1')).headers.link);
  const after = /after=([^&>]+)/.exec(link)![1]!;
  expect((await page(`sort=name&after=${after}`)).statusCode).toBe(422);
  const { browser } = await personSignedIn(night, admin, 'A Gent', 'agent');
  expect((await browser.send('GET', '/api/people')).status).toBe(403);
});

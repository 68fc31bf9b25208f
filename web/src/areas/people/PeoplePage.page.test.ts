// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { PersonRow } from '../../api/client.ts';
import { type Answers, type OpenPage, openPage } from '../../page.testing.ts';
import { type AgentLive, useLive } from '../../shell/live.ts';
import PeoplePage from './PeoplePage.vue';
import { around, somebody } from './person.testing.ts';

let page: OpenPage;
afterEach(() => page.close());

const row = (id: string, name: string, more: Partial<PersonRow> = {}) =>
  ({
    ...{ id, name, version: 1, retired: false, login: '', role: 'agent', mail: null, extension: '2104' },
    ...{ teamId: 't', teamName: 'Bookings', skills: [], queues: [{ id: 'q', name: 'Bookings' }] },
    ...more,
  }) as PersonRow;
const crew = [row('a', 'Ann Berg'), row('b', 'Bo Lind'), row('c', 'Cy Moss')];

/** A long list: two a stretch, the next by its link. */
function list({ query }: { query: URLSearchParams }): Response {
  const fit = crew.filter(({ name }) => name.toLowerCase().includes(query.get('search') ?? ''));
  const from = Number(query.get('after') ?? 0);
  const size = query.get('limit') === '100' ? 2 : Number(query.get('limit'));
  const headers: Record<string, string> = {};
  if (from + size < fit.length)
    headers.link = `<${location.origin}/api/people?after=${from + size}>; rel="next"`.replace(
      location.origin,
      '',
    );
  if (query.has('total')) headers['total-count'] = String(fit.length);
  return Response.json(fit.slice(from, from + size), { headers });
}
const open = (answers: Answers = {}, at = '/people', role = 'administrator') =>
  openPage(PeoplePage, { ...around, 'GET /api/people': list, ...answers } as Answers, { at, role });
const names = () => page.shown.findAll('tbody td:nth-child(3)').map((cell) => cell.text());
const agent = (personId: string, more: Partial<AgentLive>) =>
  useLive().agents.set(personId, {
    ...{ personId, name: '', state: 'available', since: 0, phone: 'registered', reachedBy: 'phone' },
    ...more,
  } as unknown as AgentLive);

test('more is read as one comes near the end, and counted once for list and sentence', async () => {
  page = await open();
  await page.settled();
  expect(names()).toEqual(['Ann Berg', 'Bo Lind', 'Cy Moss']);
  expect(page.text()).toContain('3 people, 0 signed in');
  const counted = page.asked.filter(({ path, query }) => path === '/api/people' && query.has('total'));
  expect(counted).toHaveLength(1);
});

test('what fits is said beside how many there are, and all come back by one press', async () => {
  page = await open();
  await page.fill('Find a person', 'bo');
  expect(names()).toEqual(['Bo Lind']);
  expect(page.text()).toContain('1 of 3 people fit');
  await page.fill('Find a person', 'zzz');
  await page.press('Show everybody');
  expect(page.address()).toBe('/people');
});

test('who is signed in without a phone that rings stands out, here and in the sentence', async () => {
  page = await open();
  agent('a', { reachedBy: null, phone: 'unregistered' });
  useLive().signedIn = 1;
  useLive().unreachable = 1;
  await page.settled();
  expect(page.text()).toContain('1 signed in, 1 of them cannot be rung');
  expect(page.shown.findAll('tbody .fault-text').map((each) => each.text())).toEqual(['Cannot be rung']);
});

test('marks end when the list is narrowed: nothing is done to rows one no longer sees', async () => {
  page = await open();
  await page.shown.find('tbody td').trigger('click');
  await page.settled();
  expect(page.text()).toContain('1 marked');
  await page.fill('Find a person', 'b');
  expect(page.text()).not.toContain('1 marked');
});

test('a person is opened beside the list by its address, with what it was narrowed to', async () => {
  page = await open({ 'GET /api/people/p': { person: somebody(), usedBy: [] } }, '/people/p?team=t');
  await expect.poll(() => page.shown.find('aside h2').exists()).toBe(true);
  expect(page.shown.find('aside h2').text()).toBe('Ines Calloway');
  await page.press('Close the sheet');
  expect(page.address()).toBe('/people?team=t');
});

test('who may not edit makes nobody', async () => {
  page = await open({}, '/people', 'supervisor');
  expect(page.text()).not.toMatch(/New person|Many at once/);
});

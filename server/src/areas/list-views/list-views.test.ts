import { afterAll, beforeAll, expect, test } from 'vitest';
import type { ListViewDraft, WaysToLook } from '@night-bell/core/contracts/list-views';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, TestGateway } from '../../server.testing.ts';

let night: NightBell;
let admin: Browser;
let supervisor: Browser;
let auditor: Browser;
let drop: () => Promise<void>;

beforeAll(async () => {
  ({ night, admin, drop } = await openNight(new TestGateway()));
  supervisor = (await personSignedIn(night, admin, 'Sue Super', 'supervisor')).browser;
  auditor = (await personSignedIn(night, admin, 'Au Ditor', 'auditor')).browser;
});
afterAll(() => drop());

const keep = (who: Browser, draft: Partial<ListViewDraft>) =>
  who.send<WaysToLook & { detail: string; errors: { path: string; detail: string }[] }>(
    'POST',
    '/api/list-views',
    {
      ...{ list: 'people', name: 'Mine', query: 'phone=none', columns: null },
      ...draft,
    },
  );
const ways = async (who: Browser, list = 'people') =>
  (await who.send<WaysToLook>('GET', `/api/list-views?list=${list}`)).body;

test('one’s own views are seen by nobody else; those for everybody are, with whose they are', async () => {
  await keep(supervisor, { name: 'Without a phone' });
  await keep(supervisor, {
    name: 'All by team',
    query: 'sort=team',
    columns: ['team', 'state'],
    shared: true,
  });
  expect((await ways(supervisor)).views.map(({ name, mine }) => [name, mine])).toEqual([
    ['All by team', true],
    ['Without a phone', true],
  ]);
  expect((await ways(auditor)).views).toMatchObject([
    { name: 'All by team', query: 'sort=team', columns: ['team', 'state'], mine: false, by: 'Sue Super' },
  ]);
  expect((await ways(auditor, 'numbers')).views).toEqual([]);
});

test('a view kept again under its name is replaced, whatever its capitals', async () => {
  await keep(supervisor, { name: 'WITHOUT a phone', query: 'phone=unregistered' });
  const { views } = await ways(supervisor);
  expect(views.filter(({ name }) => /without/i.test(name))).toMatchObject([
    { name: 'WITHOUT a phone', query: 'phone=unregistered' },
  ]);
});

test('who only reads keeps views of their own, none for everybody', async () => {
  expect((await keep(auditor, { name: 'Read' })).status).toBe(200);
  const refused = await keep(auditor, { name: 'For all', shared: true });
  expect([refused.status, refused.body.errors[0]]).toEqual([
    403,
    { path: '/shared', detail: 'Administrators and supervisors keep views for everybody.' },
  ]);
});

test('only who keeps a view deletes it; an administrator also one that everybody sees', async () => {
  const of = async (who: Browser, wanted: string) =>
    (await ways(who)).views.find(({ name }) => name === wanted)!.id;
  const [shared, own] = [await of(supervisor, 'All by team'), await of(supervisor, 'WITHOUT a phone')];
  expect((await auditor.send('DELETE', `/api/list-views/${shared}`)).status).toBe(404);
  expect((await admin.send('DELETE', `/api/list-views/${own}`)).status).toBe(404);
  expect((await admin.send('DELETE', `/api/list-views/${shared}`)).status).toBe(204);
  expect((await supervisor.send('DELETE', `/api/list-views/${own}`)).status).toBe(204);
  expect((await ways(supervisor)).views).toEqual([]);
});

test('chosen columns are kept for each person and list, until the usual ones are asked for', async () => {
  const choose = (columns: string[] | null) => admin.send('PUT', '/api/column-choices/people', { columns });
  expect((await choose(['team'])).status).toBe(204);
  expect((await choose(['team', 'phone'])).status).toBe(204);
  expect([(await ways(admin)).columns, (await ways(supervisor)).columns]).toEqual([['team', 'phone'], null]);
  await choose(null);
  expect((await ways(admin)).columns).toBeNull();
});

test('a list there is none of, a name too long and a query without end are refused at their place', async () => {
  expect((await keep(admin, { list: 'secrets' as never })).body.errors[0]!.path).toBe('/list');
  expect((await keep(admin, { name: '' })).body.errors[0]!.path).toBe('/name');
  expect((await keep(admin, { query: 'x'.repeat(2_001) })).body.errors[0]!.path).toBe('/query');
  const many = Array.from({ length: 41 }, (_, i) => `c${i}`);
  expect((await keep(admin, { columns: many })).body.errors[0]!.path).toBe('/columns');
  expect((await admin.send('PUT', '/api/column-choices/nothing', { columns: null })).status).toBe(422);
});

test('somebody keeps 200 views and no more', async () => {
  const draft = (i: number) => keep(auditor, { list: 'calls', name: `View ${i}` });
  for (let i = 0; i < 199; i++) expect((await draft(i)).status).toBe(200);
  const full = await draft(199);
  expect([full.status, full.body.detail]).toEqual([
    409,
    'You keep 200 views already. Delete one that is no longer used.',
  ]);
  // Kept again under its name is no more of them.
  expect((await draft(3)).status).toBe(200);
});

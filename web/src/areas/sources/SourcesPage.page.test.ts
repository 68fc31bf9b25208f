// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage } from '../../page.testing.ts';
import SourcesPage from './SourcesPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const source = (id: string, name: string, numbers: string[] = ['n']) => ({
  ...{
    id,
    name,
    numbers,
    version: 1,
    retired: false,
    kind: 'poster',
    cost: null,
    costPer: 'month',
    fromDay: '2026-01-01',
  },
});
const counts = (sourceId: string | null, more: object = {}) => ({
  ...{ sourceId, calls: 0, answered: 0, lost: 0, firstTime: 0, good: 0, cost: null, costPerGood: null },
  ...more,
});
const open = async (rows: object[], at = '/sources?from=2026-11-01&to=2026-11-20', answers: Answers = {}) => {
  page = await openPage(
    SourcesPage,
    {
      'GET /api/sources': [source('a', 'Harbour poster'), source('b', 'Radio', [])],
      'GET /api/source-report': { rows, goodCallSeconds: 45 },
      ...answers,
    },
    { at },
  );
  await page.settled();
};

test('calls made by adverts are counted, those without one stand apart', async () => {
  await open([
    counts('a', { calls: 12, answered: 9 }),
    counts('b', { calls: 3 }),
    counts(null, { calls: 40 }),
  ]);
  expect(page.text()).toContain('15 calls made by adverts');
  expect(page.text()).toContain('no source');
  expect(page.text()).toContain('no number');
  expect(page.text()).toContain('A good call lasts 45 s');
});

test('every figure leads to its calls, by the same days and the same meaning', async () => {
  await open([counts('a', { calls: 12, answered: 9, lost: 2, firstTime: 4, good: 5 })]);
  const links = page.shown
    .findAll('tbody a')
    .map((link) => decodeURIComponent(link.attributes('href') ?? ''));
  expect(links).toContain('/calls?direction=inbound&from=2026-11-01&to=2026-11-20&sourceId=a&lost=true');
  expect(links).toContain('/calls?direction=inbound&from=2026-11-01&to=2026-11-20&sourceId=a&good=true');
});

test('the days asked for are those of the address', async () => {
  await open([]);
  const read = page.asked.find(({ path }) => path === '/api/source-report')!;
  expect(read.query.toString()).toBe('from=2026-11-01&to=2026-11-20');
});

test('a row without a source opens nothing', async () => {
  await open([counts(null, { calls: 40 })]);
  await page.shown.find('tbody tr').trigger('click');
  await page.settled();
  expect(page.address()).toBe('/sources?from=2026-11-01&to=2026-11-20');
});

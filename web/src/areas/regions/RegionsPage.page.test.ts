// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { RegionRow, RegionView } from '@night-bell/core/contracts/regions';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import RegionsPage from './RegionsPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const table: RegionView = { id: 'r', version: 1, retired: false, name: 'Terminals', rows: 2, uses: 1 };
const city = { kind: 'queue' as const, id: 'q' };
const rows: RegionRow[] = [
  { prefix: '1206', place: null, to: city, toName: 'City' },
  { prefix: '1360555', place: 'Washington', to: city, toName: 'City' },
];
const coverage = {
  ...{ days: 30, calls: 4_120, withheld: 20, covered: 4_000, overlapping: 1 },
  rows: [{ prefix: '1206', calls: 3_000 }],
  missing: [{ prefix: '1503', place: 'Oregon', calls: 100 }],
  overlaps: [{ prefix: '1360555', within: '1360', toName: 'City', withinName: 'North' }],
};
const around: Answers = {
  'GET /api/region-tables': [table],
  'GET /api/region-tables/r': { item: table, usedBy: [] },
  'GET /api/region-tables/r/rows': rows,
  'GET /api/region-tables/r/coverage': coverage,
  'GET /api/items/r/history': [],
  'GET /api/jobs': [],
};
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(RegionsPage, { ...around, ...answers }, { at: '/regions/r', role });
};

test('rows are read as one writes them, and coverage says whom they catch and whom not', async () => {
  await open();
  expect(page.text()).toContain('+1 206');
  expect(page.text()).toContain('+1 360 555');
  expect(page.text()).toContain(
    'Some row fits 4,000 of 4,120 callers in the last 30 days; none fits 100, and 20 withheld their number.',
  );
  expect(page.text()).toContain('+1 360 555 to City, within +1 360 to North');
});

test('what is typed is shown before it is kept, with what it replaces and what cannot be read', async () => {
  await open({
    'POST /api/region-tables/r/rows/preview': {
      rows: [{ prefix: '1206', place: null, before: 'City' }],
      faults: [{ line: 2, detail: '“x1” has letters in it.' }],
      ...{ days: 30, calls: 4_120, caught: 3_000 },
    },
  });
  await page.fill('Regions', '206\nx1');
  await expect.poll(() => page.text()).toContain('goes to City now');
  expect(page.text()).toContain('1 row: 3,000 of 4,120 callers in the last 30 days');
  expect(page.text()).toContain('+1 206 goes to City now.');
  expect(page.text()).toContain('Line 2: “x1” has letters in it.');
  await page.press('Send them there');
  expect(page.text()).toContain('Say where these callers go.');
});

test('a row is taken out with one press, and a refusal is told', async () => {
  await open({ 'POST /api/region-tables/r/rows/take-out': { takenOut: 1 } });
  await page.shown.find('[aria-label="Take +1 206 out"]').trigger('click');
  await page.settled();
  expect(page.sent[0]!.body).toEqual({ prefixes: ['1206'] });
  expect(page.said()).toContain('+1 206 is taken out.');
});

test('who may only look sees rows and coverage, and changes nothing', async () => {
  await open({}, 'auditor');
  expect(page.text()).toContain('+1 206');
  expect(page.text()).not.toContain('Add regions');
  expect(page.shown.find('[aria-label="Take +1 206 out"]').exists()).toBe(false);
});

test('callers that cannot be counted are said to be', async () => {
  await open({
    'GET /api/region-tables/r/coverage': new Refusal(500, { code: 'broken', detail: 'Broken.' }),
  });
  await page.settled();
  expect(page.text()).toContain('The callers could not be counted.');
});

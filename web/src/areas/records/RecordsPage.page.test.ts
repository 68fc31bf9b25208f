// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage } from '../../page.testing.ts';
import RecordsPage from './RecordsPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const connection = (more: object = {}) => ({
  ...{ id: 'x', version: 1, retired: false, name: 'Harbour Book', address: 'http://127.0.0.1', link: '' },
  ...{ okAt: '2026-11-20T12:00:00Z', records: 3, waiting: 0, fault: null, why: null, since: null },
  ...more,
});
const record = (id: string, name: string, fields: Record<string, string>) => ({
  ...{ id, name, numbers: ['+13605550117'], ownerId: null, ownerName: null, link: null, fields },
});
const records = [
  record('1', 'Orla Fenn', { tier: 'Gold', booking: 'B-1', notes: 'n1' }),
  record('2', 'Bo Lind', { tier: 'Gold', booking: 'B-2', notes: 'n2' }),
  record('3', 'Cy Moss', { tier: 'Silver', booking: 'B-3', notes: 'n3' }),
];
const list = ({ query }: { query: URLSearchParams }) =>
  Response.json(
    records.filter(({ name }) => name.toLowerCase().includes(query.get('search') ?? '')),
    { headers: query.has('total') ? { 'total-count': '3' } : {} },
  );
const open = async (connections: object[], answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    RecordsPage,
    {
      ...{ 'GET /api/connections': connections, 'GET /api/records': list, 'GET /api/record-fields': [] },
      ...{ 'GET /api/allowed-addresses': [], ...answers },
    } as Answers,
    { at: '/records', role },
  );
  await page.settled();
};

test('records are shown with the fields that sort them into kinds, not with those that differ on each', async () => {
  await open([connection()]);
  expect(page.text()).toContain('3 records of Harbour Book');
  const heads = page.shown.findAll('th').map((head) => head.text());
  expect(heads.indexOf('Tier')).toBeGreaterThan(-1);
  expect(heads.indexOf('Tier')).toBeLessThan(heads.indexOf('Booking'));
});

test('results that wait to be written back are counted', async () => {
  await open([connection({ waiting: 4 })]);
  expect(page.text()).toContain('4 call results wait to be written back');
});

test('changes are read by a press; a system that does not answer says why', async () => {
  let ok = true;
  await open([connection()], {
    'POST /api/connections/read': () => ({
      ok,
      detail: ok ? '2 records are new.' : 'It did not answer in 5 s.',
    }),
  });
  await page.press('Read changes now');
  expect(page.said()).toBe('2 records are new.');
  ok = false;
  await page.press('Read changes now');
  expect(page.said()).toBe('It did not answer in 5 s.');
});

test('what one looks for stands in the address', async () => {
  await open([connection()]);
  const field = page.shown.find('.narrowing input');
  await field.setValue('orla');
  await page.settled();
  expect(page.address()).toBe('/records?holds=orla');
  expect(
    page.shown
      .findAll('tbody tr')
      .map((row) => row.text())
      .join(),
  ).toContain('Orla Fenn');
});

test('without a system it says how to connect one, and begins there', async () => {
  await open([]);
  expect(page.text()).toContain('No customer system is connected');
  await page.press('Connect a customer system');
  expect(page.shown.find('aside h2').text()).toBe('Connect a customer system');
});

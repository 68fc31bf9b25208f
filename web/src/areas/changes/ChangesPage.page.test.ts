// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import ChangesPage from './ChangesPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const change = (id: number, more: object = {}) => ({
  ...{ id, at: Date.UTC(2026, 10, 20), by: 'Rowan Tseng', what: 'changed', itemId: 'q', itemKind: 'queue' },
  ...{ itemName: 'Bookings', fields: [{ field: 'ringSeconds', before: 20, after: 30 }], about: null },
  ...{ takesBack: null, canBeTakenBack: true },
  ...more,
});
const open = async (changes: object[], answers: Answers = {}, at = '/changes', role = 'administrator') => {
  const list = ({ query }: { query: URLSearchParams }) =>
    Response.json(changes, { headers: query.has('total') ? { 'total-count': String(changes.length) } : {} });
  page = await openPage(ChangesPage, { 'GET /api/changes': list, ...answers } as Answers, { at, role });
};

test('who changed what is told in words, also where nobody did', async () => {
  await open([change(2, { by: null, what: 'published', fields: [] }), change(1)]);
  expect(page.text()).toContain('2 changes since the beginning');
  expect(page.text()).toContain('Night Bell');
  await page.shown.findAll('tbody tr').at(-1)!.trigger('click');
  await page.settled();
  expect(page.shown.find('aside').text()).toMatch(/20\s*→\s*30/);
});

test('a change is taken back from here; the reason is said where that cannot be', async () => {
  let refuse = true;
  await open([change(1)], {
    'POST /api/changes/1/take-back': () =>
      refuse ? new Refusal(409, 'notNow', 'It was changed again meanwhile. Look at it first.') : null,
  });
  await page.shown.find('tbody tr').trigger('click');
  await page.settled();
  await page.press('Take back');
  expect(page.said()).toBe('It was changed again meanwhile. Look at it first.');
  refuse = false;
  await page.press('Take back');
  expect(page.said()).toBe('Taken back.');
});

test('what it is narrowed to stands in the address and is asked of the server', async () => {
  await open([change(1)], {}, '/changes?from=2026-11-20&to=2026-11-20');
  const read = page.asked.find(({ path }) => path === '/api/changes')!;
  expect([read.query.get('from'), read.query.get('to')]).toEqual([
    '2026-11-20T08:00:00.000Z',
    '2026-11-21T08:00:00.000Z',
  ]);
  expect(page.text()).toContain('1 change fit');
  await page.fill('Of what', page.shown.findAll('option').map((each) => each.text())[1]!);
  expect(page.address()).toContain('kind=');
});

test('an auditor sees everything and takes nothing back', async () => {
  await open([change(1)], {}, '/changes', 'auditor');
  await page.shown.find('tbody tr').trigger('click');
  await page.settled();
  expect(page.shown.findAll('button').map((each) => each.text())).not.toContain('Take back');
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { HoursView } from '@night-bell/core/contracts/opening-hours';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import HoursEditor from './HoursEditor.vue';

let page: OpenPage;
afterEach(() => page.close());

const nineToFive: [number, number][][] = [...Array(5).fill([[540, 1_020]]), [], []];
const set = (more: Partial<HoursView> = {}): HoursView => ({
  ...{ id: 'h', version: 3, retired: false, name: 'Terminal', zone: 'America/Los_Angeles', days: [] },
  ...{
    weekly: nineToFive,
    storm: null,
    state: 'open',
    nextChange: null,
    today: null,
    nextDay: null,
    uses: 0,
  },
  clockChanges: [[0, -480]],
  ...more,
});
const open = async (of: HoursView | null, answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    HoursEditor,
    {
      ...{ 'GET /api/opening-hours/h': { item: of, usedBy: [] }, 'GET /api/items/h/history': [] },
      'GET /api/opening-hours': [],
      'GET /api/opening-hours/h/calendar': null,
      ...answers,
    },
    { props: { set: of }, role },
  );
};

test('how it stands is said in words: state, reason, and that nothing changes', async () => {
  await open(set({ state: 'holiday', today: 'Harbour day' }));
  expect(page.text()).toContain('Holiday with no change ahead, today is Harbour day');
  expect(page.text()).toContain('40 hours a week');
});

test('a change is not saved until one says so, and can be thrown away', async () => {
  await open(set(), { 'PUT /api/opening-hours/h': set({ version: 4, name: 'Terminal North' }) });
  await page.fill('Name', 'Terminal North');
  expect(page.text()).toContain('Not saved.');
  await page.press('Discard');
  expect((page.shown.find('.title').element as HTMLInputElement).value).toBe('Terminal');
  await page.fill('Name', 'Terminal North');
  await page.press('Save');
  expect(page.sent[0]).toMatchObject({
    version: '"3"',
    body: { name: 'Terminal North', weekly: nineToFive },
  });
});

test('a new set begins on the company’s clock', async () => {
  await open(null, { 'POST /api/opening-hours': set() });
  await page.fill('Name', 'Terminal');
  expect(page.text()).not.toContain('Not saved.');
  await page.press('Make set');
  expect(page.sent[0]!.body).toMatchObject({ name: 'Terminal', zone: 'America/Los_Angeles' });
  expect(page.said()).toBe('Terminal is made.');
});

test('what is wrong with a day is said under the drawing, and nothing is lost', async () => {
  const detail = '09:00 to 12:00 and 11:00 to 15:00 overlap. Make them one, or end the first earlier.';
  await open(set(), {
    'PUT /api/opening-hours/h': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/weekly/0', detail },
    ]),
  });
  await page.fill('Name', 'Terminal North');
  await page.press('Save');
  expect(page.text()).toContain(detail);
  expect((page.shown.find('.title').element as HTMLInputElement).value).toBe('Terminal North');
});

test('who may only read changes nothing', async () => {
  await open(set(), {}, 'auditor');
  expect(page.shown.find('.title').attributes('readonly')).toBeDefined();
  expect(page.text()).not.toContain('Deactivate');
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { useNotices } from '../../shell/notices.ts';
import StormDay from './StormDay.vue';

let page: OpenPage;
afterEach(() => page.close());

const set = (id: string, name: string, storm: object | null = null) => ({
  ...{ id, name, version: 1, retired: false, zone: 'America/Los_Angeles', storm },
});
const until = Date.UTC(2026, 10, 21, 2);
const open = async (sets: object[], answers: Answers = {}, role = 'supervisor') => {
  page = await openPage(StormDay, { 'GET /api/opening-hours': sets, ...answers }, { role });
};

test('chosen sets are closed until an hour of the company’s clock, and the notice opens them again', async () => {
  await open([set('a', 'Terminal'), set('b', 'Freight')], {
    'POST /api/storm': [set('a', 'Terminal', { since: 0, until, by: null })],
  });
  await page.fill('Close', 'Terminal');
  await page.fill('Until, the time', '18');
  await page.press('Close 1 set');
  const { ids, until: end } = page.sent[0]!.body as { ids: string[]; until: number };
  expect(ids).toEqual(['a']);
  expect(new Date(end).toLocaleTimeString('en-GB', { timeZone: 'America/Los_Angeles' })).toBe('18:00:00');
  expect(page.said()).toBe('Terminal closed by storm.');
  await useNotices().notice!.undo!();
  expect(page.sent[1]!.body).toEqual({ ids: ['a'], until: null });
});

test('without an hour nothing is closed: a storm ends by itself', async () => {
  await open([set('a', 'Terminal')]);
  await page.fill('Close', 'Terminal');
  await page.press('Close 1 set');
  expect(page.text()).toContain('Say until when, like 18:00. It ends by itself then.');
  expect(page.sent).toEqual([]);
});

test('an hour that is over is refused at the place', async () => {
  await open([set('a', 'Terminal')], {
    'POST /api/storm': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/until', detail: 'Choose an hour that is still to come.' },
    ]),
  });
  await page.fill('Close', 'Terminal');
  await page.fill('Until, the time', '6:00');
  await page.press('Close 1 set');
  expect(page.text()).toContain('Choose an hour that is still to come.');
});

test('what is closed is said with since, until and by whom, and is opened here', async () => {
  await open([set('a', 'Terminal', { since: until - 3_600_000, until, by: 'Jo Marrash' })], {
    'POST /api/storm': [set('a', 'Terminal')],
  });
  expect(page.text()).toMatch(/Terminal since .*until .*, by Jo Marrash/);
  expect(page.shown.findAll('option').map((option) => option.text())).not.toContain('Terminal');
  await page.press('Open now');
  expect(page.said()).toBe('Terminal is open again.');
  expect(page.text()).not.toContain('Jo Marrash');
});

test('who may not operate sees what is closed, and no more', async () => {
  await open([set('a', 'Terminal', { since: 0, until, by: null })], {}, 'auditor');
  expect(page.text()).toContain('Terminal since');
  expect(page.shown.findAll('button')).toHaveLength(0);
});

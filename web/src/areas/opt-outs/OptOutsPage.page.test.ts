// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import OptOutsPage from './OptOutsPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const optOut = (e164: string, how: string, more: object = {}) => ({
  ...{ id: e164, e164, how, by: null, campaignName: null, callId: null, at: '2026-11-20T12:00:00Z' },
  ...more,
});
const list = ({ query }: { query: URLSearchParams }) =>
  Response.json(
    [optOut('+13605550117', 'key', { callId: 'c' }), optOut('+13605550118', 'list', { by: 'Rowan' })].filter(
      ({ e164 }) => e164.includes(query.get('search') ?? ''),
    ),
    { headers: query.has('total') ? { 'total-count': '2' } : {} },
  );
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(OptOutsPage, { 'GET /api/opt-outs': list, ...answers } as Answers, { role });
};

test('how each came here is said; one by key leads to its call', async () => {
  await open();
  expect(page.text()).toContain('2 numbers that no campaign ever calls again');
  expect(page.text()).toContain('entered here');
  expect(page.shown.find('a[href="/calls/c"]').text()).toBe('pressed the key');
});

test('lines that cannot be read are named with their reason; the others are taken', async () => {
  const faults = [{ line: 2, detail: 'No number: it is too short.' }];
  await open({ 'POST /api/opt-outs': { added: 1, already: 2, faults } });
  await page.press('Add numbers');
  await page.fill('One number a line, typed, pasted or from a file', '+1 360 555 0119\n12');
  await page.press('Never call these again');
  expect(page.said()).toBe('1 added, 2 were on the list already.');
  expect(page.text()).toContain('Line 2: No number: it is too short.');
});

test('a list taken whole closes the sheet; one refused says why and stays typed', async () => {
  let refuse = true;
  await open({
    'POST /api/opt-outs': () =>
      refuse
        ? new Refusal(413, 'tooLong', 'At most 5,000 lines at once.')
        : { added: 1, already: 0, faults: [] },
  });
  await page.press('Add numbers');
  await page.fill('One number a line, typed, pasted or from a file', '+1 360 555 0119');
  await page.press('Never call these again');
  expect(page.text()).toContain('At most 5,000 lines at once.');
  refuse = false;
  await page.press('Never call these again');
  expect(page.shown.find('aside').exists()).toBe(false);
});

test('a file is read into the field, to be looked over before it is sent', async () => {
  await open();
  await page.press('Add numbers');
  const input = page.shown.find('input[type=file]');
  const file = new File(['+1 360 555 0117\n+1 360 555 0118\n'], 'numbers.txt', { type: 'text/plain' });
  Object.defineProperty(input.element, 'files', { value: [file] });
  await input.trigger('change');
  await expect
    .poll(() => (page.shown.find('textarea').element as HTMLTextAreaElement).value)
    .toContain('+1 360 555 0118');
  expect(page.sent).toEqual([]);
});

test('an auditor looks only', async () => {
  await open({}, 'auditor');
  expect(page.text()).not.toContain('Add numbers');
});

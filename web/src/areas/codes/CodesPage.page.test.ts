// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { CodeView } from '@night-bell/core/contracts/codes';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import CodesPage from './CodesPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const code = (more: Partial<CodeView> = {}): CodeView => ({
  ...{ id: 'c', version: 2, retired: false, name: 'Storm', digits: '*86', does: 'storm', hoursIds: ['h'] },
  ...{ forHours: 6, teamIds: [], groupIds: [], hasPin: true, insteadOf: null },
  ...more,
});
const around: Answers = {
  ...{ 'GET /api/teams': [], 'GET /api/items/c/history': [] },
  'GET /api/ring-groups': [{ id: 'g', name: 'Quay', retired: false, version: 1 }],
  'GET /api/opening-hours': [{ id: 'h', name: 'Terminal', retired: false, version: 1 }],
};
const open = async (codes: CodeView[], answers: Answers = {}, at = '/codes', role = 'administrator') => {
  const one = codes[0];
  page = await openPage(
    CodesPage,
    {
      ...around,
      'GET /api/service-codes': codes,
      ...(one === undefined ? {} : { [`GET /api/service-codes/${one.id}`]: { item: one, usedBy: [] } }),
      ...answers,
    },
    { at, role },
  );
};

test('what each code does is said in words, and which have no PIN', async () => {
  await open([code(), code({ id: 'd', name: 'Fog', digits: '*87', forHours: 1, hasPin: false })]);
  expect(page.text()).toContain('2 codes, 1 without a PIN');
  expect(page.text()).toContain('Closes Terminal for 6 hours');
  expect(page.text()).toContain('Closes Terminal for 1 hour');
  expect(page.shown.findAll('.fault-text').map((each) => each.text())).toEqual(['no PIN']);
});

test('a PIN of four to ten digits is set, never read back', async () => {
  await open([code({ hasPin: false })], { 'POST /api/service-codes/c/pin': null }, '/codes/c');
  const set = () => page.shown.findAll('button').find((each) => each.text() === 'Set')!;
  expect(page.text()).toContain('the code does nothing without one');
  await page.fill('New PIN, 4 to 10 digits', '123');
  expect(set().attributes('disabled')).toBeDefined();
  await page.fill('New PIN, 4 to 10 digits', '2468');
  await page.press('Set');
  expect(page.sent[0]!.body).toEqual({ pin: '2468' });
  expect((page.shown.find('.pin').element as HTMLInputElement).value).toBe('');
  expect(page.said()).toBe('The PIN of Storm is set.');
});

test('a refused PIN says why, and what was typed stays', async () => {
  const refused = new Refusal(422, 'invalidInput', 'Choose a PIN that is less easily guessed.');
  await open([code()], { 'POST /api/service-codes/c/pin': refused }, '/codes/c');
  await page.fill('New PIN, 4 to 10 digits', '1111');
  await page.press('Set');
  expect(page.said()).toBe('Choose a PIN that is less easily guessed.');
  expect((page.shown.find('.pin').element as HTMLInputElement).value).toBe('1111');
});

test('a new one begins with what is usual, and a fault stands at its field', async () => {
  await open([], {
    'POST /api/service-codes': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/digits', detail: 'A code is * and two to six digits, for example *86.' },
    ]),
  });
  await page.press('New code');
  await page.fill('Name', 'Storm');
  await page.fill('Code', '86');
  await page.press(/^Make /);
  expect(page.sent[0]!.body).toEqual({
    ...{ name: 'Storm', digits: '86', does: 'storm', hoursIds: [], forHours: 6, teamIds: [] },
    groupIds: [],
  });
  const digits = document.getElementById('code-digits')!;
  expect(digits.getAttribute('aria-invalid')).toBe('true');
});

test('a code that a dialling rule would have taken is said to come first', async () => {
  await open([code({ insteadOf: 'Outside line' })], {}, '/codes/c', 'supervisor');
  expect(page.text()).toContain('The dialling rule Outside line would take *86 out; the code comes first.');
  expect(page.shown.find('.pin').exists()).toBe(false);
});

test('a code by which members sit out names groups, or all that whoever dials is in; it needs no PIN', async () => {
  const sitOut = { does: 'takePart', hoursIds: [], hasPin: false, name: 'Sit out', groupIds: [] } as const;
  await open(
    [code({ ...sitOut, hoursIds: [], groupIds: [] })],
    { 'PUT /api/service-codes/c': code() },
    '/codes/c',
  );
  expect(page.text()).toContain('Lets whoever dials sit out of all their ring groups, or come back');
  expect(page.text()).toContain('None is asked for: it is about whoever’s phone dials');
  expect(page.text()).not.toContain('no PIN');
  await page.fill('Groups', 'Quay');
  await page.press('Save');
  expect(page.sent[0]!.body).toMatchObject({ does: 'takePart', groupIds: ['g'] });
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { HeldNumber } from '../../api/client.ts';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { useTestCall } from '../../shell/test-call.ts';
import NumberSheet from './NumberSheet.vue';

let page: OpenPage;
afterEach(() => page.close());

const held = (more: Partial<HeldNumber> = {}): HeldNumber =>
  ({
    ...{ id: 'n', version: 3, e164: '+12065550140', label: 'Main line', destination: { kind: 'end' } },
    ...{ destinationName: null, sourceId: null, sourceName: null, mostCalls: null, dialTeams: [] },
    ...{ textsTo: null, textsName: null, rentedAt: null, paidUntil: null, monthly: null, canText: true },
    ...{ reports: [], callsToday: 12 },
    ...more,
  }) as HeldNumber;
const around: Answers = {
  ...{ 'GET /api/teams': [], 'GET /api/items/n/history': [], 'POST /api/test-calls': {} },
  'GET /api/sources': [{ id: 's', name: 'Harbour poster', version: 1, retired: false }],
};
const open = (number: HeldNumber | null, answers: Answers = {}, role = 'administrator') =>
  openPage(NumberSheet, { ...around, ...answers }, { role, props: { number, users: [] } });

test('a number is entered with its label only; where it leads may come later', async () => {
  page = await open(null, { 'POST /api/numbers': held() });
  await page.fill('Number', '+1 206 555 0140');
  await page.fill('Label', 'Main line');
  await page.press('Enter this number');
  expect(page.sent[0]!.body).toEqual({
    ...{ e164: '+1 206 555 0140', label: 'Main line', destination: null, sourceId: null, textsTo: null },
    ...{ dialTeams: [], mostCalls: null, priority: 0 },
  });
  expect(page.said()).toBe('Main line is entered.');
});

test('what is no number is said as soon as it is typed, before anything is sent', async () => {
  page = await open(null);
  await page.fill('Number', '+1 112 555 0142');
  await expect.poll(() => page.text()).toMatch(/area code|begin with/i);
  expect(page.sent).toEqual([]);
});

test('its source and how many calls it takes are changed with the version that was seen', async () => {
  page = await open(held(), { 'PUT /api/numbers/n': held({ version: 4 }) });
  await page.fill('At once', '4');
  await page.fill('Call source', 'Harbour poster');
  await page.press('Save');
  expect(page.sent[0]).toMatchObject({ version: '"3"', body: { mostCalls: 4, sourceId: 's' } });
  await page.fill('At once', '');
  await page.press('Save');
  expect(page.sent[1]!.body).toMatchObject({ mostCalls: null });
});

test('giving a rented number up asks first, and says what is not paid back', async () => {
  const rented = held({ monthly: '1.15', rentedAt: '2026-01-01', paidUntil: '2026-12-01' });
  page = await open(rented, { 'POST /api/numbers/n/give-up': null });
  await page.press('Give up');
  expect(page.text()).toContain('the month paid is not paid back');
  await page.press('Keep it');
  expect(page.sent).toEqual([]);
  await page.press('Give up');
  await page.press(/^Give \+?1? ?206.* up$/);
  expect(page.sent[0]).toMatchObject({ path: '/api/numbers/n/give-up', version: '"3"' });
});

test('a number that is still used is kept, and the reason is said', async () => {
  page = await open(held(), {
    'POST /api/numbers/n/give-up': new Refusal(409, 'inUse', 'Season renewal still shows it.'),
  });
  await page.press('Give up');
  await page.press(/^Give .* up$/);
  expect(page.said()).toBe('Season renewal still shows it.');
});

test('texts of a number nobody reads are refused, and where to say who is said', async () => {
  page = await open(held(), { 'GET /api/texts': [] });
  await page.press('Texts');
  expect(page.text()).toContain('Nobody reads the texts of this number, so they are refused.');
});

test('a test call is placed from here; who may not edit changes and gives up nothing', async () => {
  page = await open(held({ reports: [{ by: 'Carrier A', on: '2026-11-01' }] }), {}, 'supervisor');
  expect(page.text()).toContain('Carrier A');
  expect(page.text()).not.toContain('Give up');
  await page.press('Test a call');
  expect(useTestCall().to).toContain('206');
});

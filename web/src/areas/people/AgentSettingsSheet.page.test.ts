// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import AgentSettingsSheet from './AgentSettingsSheet.vue';
import { around } from './person.testing.ts';

let page: OpenPage;
afterEach(() => page.close());
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(AgentSettingsSheet, { ...around, ...answers }, { role });
  await page.settled();
};

test('reasons to be away are added and taken out, and saved in their order; empty ones are left out', async () => {
  await open({ 'PUT /api/agent-settings': {} });
  await page.press('Away reasons');
  await page.press('Take break out');
  await page.press('Another reason');
  await page.fill('Reason 2', ' back-office ');
  await page.press('Another reason');
  await page.press('Save');
  expect(page.sent[0]!.body).toEqual({ seats: null, awayReasons: ['lunch', 'back-office'] });
});

test('a fault stands at its reason, and leaving brings back what was', async () => {
  await open({
    'PUT /api/agent-settings': new Refusal(422, 'invalidInput', 'A reason is wrong.', [
      { path: '/awayReasons/1', detail: 'There is already a reason called break.' },
    ]),
  });
  await page.press('Away reasons');
  await page.fill('Reason 2', 'break');
  await page.press('Save');
  expect(page.shown.findAll('li')[1]!.text()).toContain('There is already a reason called break.');
  await page.press('Leave as it was');
  const words = page.shown.findAll('li input').map((input) => (input.element as HTMLInputElement).value);
  expect(words).toEqual(['break', 'lunch']);
});

test('seats are a number or no limit, with how many are in use beside', async () => {
  await open({ 'PUT /api/agent-settings': {} });
  await page.press('Seats');
  expect(page.text()).toContain('In use4');
  await page.fill('Rented seats', '12');
  await page.press('Save');
  await page.fill('Rented seats', ' ');
  expect(page.sent.map(({ body }) => (body as { seats: number | null }).seats)).toEqual([12]);
});

test('a team is renamed with its version, and deactivated only where nobody is in it', async () => {
  await open({ 'PUT /api/teams/u': {}, 'POST /api/teams/u/retire': {}, 'GET /api/items/u/history': [] });
  const of = (name: string) => page.shown.find(`input[aria-label="Name of ${name}"]`).element.parentElement!;
  expect(
    [of('Bookings').textContent, of('Refunds').textContent].map((text) => text.includes('Deactivate')),
  ).toEqual([false, true]);
  await page.fill('Name of Refunds', 'Refunds and claims');
  expect(page.sent[0]).toMatchObject({
    ...{ path: '/api/teams/u', version: '"1"', body: { name: 'Refunds and claims', emergencyAddress: null } },
  });
  await page.press('Deactivate');
  expect(page.said()).toBe('Refunds is deactivated.');
});

test('who may not edit reads only', async () => {
  await open({}, 'auditor');
  expect(page.text()).not.toMatch(/Deactivate|Make team/);
  await page.press('Away reasons');
  expect(page.text()).not.toContain('Another reason');
});

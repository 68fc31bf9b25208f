// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { CampaignView } from '@night-bell/core/contracts/campaigns';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import CampaignSettings from './CampaignSettings.vue';

let page: OpenPage;
afterEach(() => page.close());

const campaign = (more: Partial<CampaignView> = {}): CampaignView =>
  ({
    ...{ id: 'c', version: 5, retired: false, name: 'Season renewal', queueId: 'q', trunkId: 'k' },
    ...{ numberId: null, ratio: 1.2, mostInAir: null, ringSeconds: 20, abandonPercent: 3, optOutKey: '9' },
    ...{ message: 'This is Merrow. Press 9 for no more calls.', attempts: 4, retryMinutes: 240 },
    ...{ hoursFrom: 480, hoursTo: 1_260, script: '', outcomes: [], status: 'ready' },
    ...more,
  }) as CampaignView;
const named = (id: string, name: string, retired = false) => ({ id, name, retired, version: 1, members: [] });
const open = async (of: CampaignView, answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    CampaignSettings,
    {
      ...{ 'GET /api/campaigns/c/fields': ['berth'], 'GET /api/campaigns/c': { item: of, usedBy: [] } },
      ...{ 'GET /api/queues': [named('q', 'Bookings'), named('o', 'Old', true)] },
      ...{ 'GET /api/trunks': [named('k', 'Sound Telecom')], 'GET /api/items/c/history': [] },
      ...answers,
    },
    { props: { campaign: of }, role },
  );
  await page.settled();
};
const body = () => page.sent.at(-1)!.body as Record<string, unknown>;

test('pace and tries are figures of one sentence; an empty bound is none', async () => {
  await open(campaign({ mostInAir: 30 }), { 'PUT /api/campaigns/c': campaign({ version: 6 }) });
  await page.fill('Calls for each free agent', '1.4');
  await page.fill('Calls in the air at most', '');
  await page.fill('Attempts', '6');
  await page.press('Save');
  expect(page.sent[0]!.version).toBe('"5"');
  expect(body()).toMatchObject({ ratio: 1.4, mostInAir: null, attempts: 6 });
});

test('calling hours are typed as times of day, and sent as minutes', async () => {
  await open(campaign(), { 'PUT /api/campaigns/c': campaign() });
  await page.fill('Calling hours begin', '9:30');
  await page.fill('Calling hours end', '20:00');
  await page.press('Save');
  expect(body()).toMatchObject({ hoursFrom: 570, hoursTo: 1_200 });
});

test('only queues in use are offered', async () => {
  await open(campaign());
  const options = [...document.querySelectorAll('#campaign-queueId option')].map((each) => each.textContent);
  expect(options).toEqual(['Bookings']);
});

test('no opt-out key is null, and a fault marks the figure it is about', async () => {
  await open(campaign(), {
    'PUT /api/campaigns/c': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/abandonPercent', detail: 'From 0 to 3 percent.' },
    ]),
  });
  await page.fill('Opt-out key', '');
  await page.fill('Abandon limit in percent', '7');
  await page.press('Save');
  expect(body()).toMatchObject({ optOutKey: null, abandonPercent: 7 });
  expect(page.text()).toContain('From 0 to 3 percent.');
  expect(document.getElementById('campaign-abandonPercent')!.getAttribute('aria-invalid')).toBe('true');
});

test('who may only read sees all of it, and changes nothing', async () => {
  await open(campaign(), {}, 'auditor');
  expect(document.getElementById('campaign-ratio')!.hasAttribute('readonly')).toBe(true);
  expect(page.text()).not.toMatch(/Deactivate|Leave as it was/);
});

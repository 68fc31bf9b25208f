// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { RecordingSettingsView } from '@night-bell/core/contracts/recordings';
import { type Answers, type Asked, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import RecordingSettings from './RecordingSettings.vue';

let page: OpenPage;
afterEach(() => page.close());

const view = (keepDays = 90, isKept = true): RecordingSettingsView => ({
  settings: { keepDays, agentsHearOwn: true },
  held: { count: 1_240, megabytes: 1_733.4, isKept },
});
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(RecordingSettings, { 'GET /api/recording-settings': view(), ...answers }, { role });
};

test('what is kept is said; a change is saved, and one that cannot be is refused at its place', async () => {
  await open({
    'PUT /api/recording-settings': ({ body }: Asked) =>
      (body as { keepDays: number }).keepDays > 0
        ? view(30)
        : new Refusal(422, 'invalidInput', 'Check the days.', [
            { path: '/keepDays', detail: 'A whole number from 1 to 3,650.' },
          ]),
  });
  expect(page.text()).toContain('1,240 talks, 1,733.4 MB');
  expect(page.text()).not.toContain('Save');
  await page.fill('Kept for', '0');
  await page.press('Save');
  expect(page.text()).toContain('A whole number from 1 to 3,650.');
  await page.fill('Kept for', '30');
  await page.press('Save');
  expect(page.sent.at(-1)!.body).toEqual({ keepDays: 30, agentsHearOwn: true });
  expect(page.text()).not.toContain('Save');
});

test('a server that keeps none says what is missing; who only reads changes nothing', async () => {
  await open({ 'GET /api/recording-settings': view(90, false) }, 'auditor');
  expect(page.text()).toContain('This server keeps no recordings');
  expect(page.shown.findAll('button')).toHaveLength(0);
});

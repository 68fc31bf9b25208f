// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { BotView } from '@night-bell/core/contracts/bots';
import { type Answers, type Asked, type OpenPage, openPage } from '../../page.testing.ts';
import BotsPage from './BotsPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const bot: BotView = {
  ...{ id: 'b', version: 3, retired: false, name: 'Sailing times', address: 'https://bot.example/talk' },
  ...{ limitSeconds: 4, mostTurns: 12, hasKey: true, uses: 1 },
};
const around: Answers = {
  'GET /api/bots': [bot],
  'GET /api/bots/b': { item: bot, usedBy: [] },
  'GET /api/items/b/history': [],
};
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(BotsPage, { ...around, ...answers }, { at: '/bots/b', role });
};
const turn = (more: object) => ({
  ...{ answer: { say: 'Which crossing?', then: 'listen', facts: {}, language: null }, why: null },
  ...more,
});

test('the key is typed and never shown; left empty, the one that is kept stays', async () => {
  await open({ 'PUT /api/bots/b': { ...bot, version: 4, limitSeconds: 7 } });
  expect(page.shown.get('[type=password]').attributes('placeholder')).toBe('kept');
  await page.fill('Seconds to answer', '7');
  await page.press('Save');
  expect(page.sent[0]).toMatchObject({ path: '/api/bots/b', version: '"3"' });
  expect(page.sent[0]!.body).toEqual({
    ...{ name: 'Sailing times', address: 'https://bot.example/talk', limitSeconds: 7, mostTurns: 12 },
  });
});

test('it is tried a turn at a time: what it says, what it found, and what follows', async () => {
  const said: unknown[] = [];
  await open({
    'POST /api/bots/b/try': ({ body }: Asked) => {
      said.push(body);
      return said.length === 1
        ? turn({
            answer: { say: 'Which crossing?', then: 'listen', facts: { misheard: '0' }, language: 'fr' },
          })
        : turn({
            answer: { say: 'At 9:40.', then: 'handOver', facts: { crossing: 'Stornay' }, language: null },
          });
    },
  });
  await page.press('Begin a call');
  await page.settled();
  expect(page.text()).toContain('Which crossing?');
  await page.fill('What the caller says', 'To Stornay');
  await page.shown.get('form[action], ol + form').trigger('submit');
  await page.settled();
  expect(said).toEqual([
    { said: '', turn: 1, facts: {}, language: null },
    { said: 'To Stornay', turn: 2, facts: { misheard: '0' }, language: 'fr' },
  ]);
  expect(page.text()).toContain('It hands over; crossing is Stornay');
});

test('one that does not answer is said so, with what to look at', async () => {
  await open({ 'POST /api/bots/b/try': { answer: null, why: 'fault' } });
  await page.press('Begin a call');
  await page.settled();
  expect(page.text()).toContain('Check address and key.');
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import StandInsPage from './StandInsPage.vue';

let page: OpenPage;
afterEach(() => page.close());
const view = (more: object = {}) => ({
  ...{ connected: true, phones: 14, traffic: { on: true, speed: 2 }, letters: [], lamps: [], frontDesk: [] },
  ...more,
});
const open = async (of: object, answers: Answers = {}, role = 'administrator') => {
  page = await openPage(StandInsPage, { 'GET /api/stand-ins': of, ...answers }, { role });
  await page.settled();
};

test('traffic is turned off and on at the speed chosen', async () => {
  await open(view(), { 'PUT /api/stand-ins/traffic': null });
  await page.fill('Speed', '10 times');
  await page.press('Let them rest');
  expect(page.sent.map(({ body }) => body)).toEqual([
    { on: true, speed: 10 },
    { on: false, speed: 2 },
  ]);
  expect(page.said()).toBe('Stand-in callers rest. Calls in progress go on.');
});

test('without a connection nothing can be turned on, and it says that it comes back', async () => {
  await open(view({ connected: false, traffic: { on: false, speed: 1 } }));
  expect(page.text()).toContain('They start with Night Bell and come back by themselves.');
  const button = page.shown.findAll('button').find((each) => each.text() === 'Let them call')!;
  expect(button.attributes('disabled')).toBeDefined();
});

test('letters are read here, with whoever they went to; lamps say how many wait', async () => {
  await open(
    view({
      letters: [
        { at: Date.UTC(2026, 10, 20), to: 'ann@merrow.example', subject: 'Your code', text: 'red-otter-7' },
      ],
      lamps: [{ account: 'ines', newMessages: 3 }],
    }),
  );
  expect(page.text()).toContain('Your code to ann@merrow.example');
  expect(page.text()).toContain('ines (3)');
});

test('a code is handed to a phone; one that is none is refused with the reason', async () => {
  let refuse = true;
  await open(view(), {
    'POST /api/stand-ins/enrolments': () =>
      refuse ? new Refusal(409, 'notNow', 'The stand-ins are away. They come back by themselves.') : null,
  });
  await page.fill('Enrolment code', 'blue-otter-3');
  await page.press('Hand it over');
  expect(page.said()).toBe('The stand-ins are away. They come back by themselves.');
  refuse = false;
  await page.press('Hand it over');
  expect(page.said()).toContain('Handed over.');
});

test('an auditor looks only', async () => {
  await open(view(), {}, 'auditor');
  expect(page.text()).not.toMatch(/Let them rest|Hand it over|Somebody dials/);
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import PublishLater from './PublishLater.vue';

let page: OpenPage;
let saves: boolean;
let saved: number;
afterEach(() => page.close());
const open = async (plan: object, answers: Answers = {}, stopped = false) => {
  saves = true;
  saved = 0;
  const save = () => {
    saved++;
    return Promise.resolve(saves);
  };
  page = await openPage(PublishLater, answers, {
    props: { plan: { id: 'p', published: { version: 1 }, scheduled: null, ...plan }, stopped, save },
  });
};

test('what is saved now is published then: it is saved first, and not set where that fails', async () => {
  await open({}, { 'POST /api/plans/p/schedule': { id: 'p' } });
  await page.press('Later');
  await page.fill('Time it is published', '6:30');
  saves = false;
  await page.press('Set it');
  expect([saved, page.sent.length]).toEqual([1, 0]);
  saves = true;
  await page.press('Set it');
  const { publishAt, backAt } = page.sent[0]!.body as { publishAt: number; backAt: null };
  expect(new Date(publishAt).toLocaleTimeString('en-GB', { timeZone: 'America/Los_Angeles' })).toBe(
    '06:30:00',
  );
  expect(backAt).toBeNull();
});

test('a time that is none is said at the place', async () => {
  await open({});
  await page.press('Later');
  await page.fill('Time it is published', 'noonish');
  await page.press('Set it');
  expect(page.text()).toContain('Type a time like 06:00.');
  expect(saved).toBe(0);
});

test('it goes back where one says so, and a moment that is over is refused with the reason', async () => {
  await open(
    {},
    {
      'POST /api/plans/p/schedule': new Refusal(
        422,
        'invalidInput',
        'Choose a moment that is still to come.',
      ),
    },
  );
  await page.press('Later');
  await page.fill('and go back to what callers meet now', true);
  await page.fill('Time it goes back', '18:15');
  await page.press('Set it');
  expect(page.sent[0]!.body).toMatchObject({ backAt: expect.any(Number) as number });
  expect(page.text()).toContain('Choose a moment that is still to come.');
});

test('what is set is said, and can be left as it is', async () => {
  const at = Date.UTC(2026, 10, 20, 14);
  await open(
    { scheduled: { publishAt: at, backAt: at + 3_600_000, done: false, fault: null } },
    { 'POST /api/plans/p/unschedule': { id: 'p' } },
  );
  expect(page.text()).toMatch(/Published .*06:00, back .*07:00, as it was when this was set\./);
  await page.press('Leave it as it is');
  expect(page.said()).toBe('Nothing happens by itself.');
});

test('why it was not published is said; a plan with faults cannot be set', async () => {
  await open({ scheduled: { publishAt: 1, backAt: null, done: false, fault: 'Bookings is deactivated.' } });
  expect(page.text()).toContain('Not published: Bookings is deactivated.');
  page.close();
  await open({}, {}, true);
  expect(page.shown.find('button').attributes('disabled')).toBeDefined();
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { somebody } from './person.testing.ts';
import PersonAccess from './PersonAccess.vue';

let page: OpenPage;
afterEach(() => page.close());
const place = { since: '2026-11-20T12:00:00Z', browser: 'Firefox', address: '192.0.2.7' };
const open = async (access: object, answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    PersonAccess,
    { 'GET /api/people/p/access': access, ...answers },
    { props: { person: somebody() }, role },
  );
};

test('where somebody is signed in is shown, and ended everywhere at once', async () => {
  let signIns = [place];
  await open(() => ({ lockedSeconds: 0, signIns }), {
    'DELETE /api/people/p/sign-ins': () => {
      signIns = [];
      return null;
    },
  });
  expect(page.text()).toContain('Firefox');
  await page.press('End all sign-ins');
  expect(page.said()).toBe('Ines Calloway is signed out everywhere.');
  expect(page.text()).toContain('Nowhere.');
});

test('who guessed wrong too often is let in again', async () => {
  let lockedSeconds = 90;
  await open(() => ({ lockedSeconds, signIns: [] }), {
    'POST /api/people/p/unlock': () => {
      lockedSeconds = 0;
      return null;
    },
  });
  expect(page.text()).toContain('kept out for 1:30 more');
  await page.press('Let them try again');
  expect(page.text()).not.toContain('kept out');
});

test('a new code ends the old password; what is refused is said', async () => {
  let refuse = true;
  await open(
    { lockedSeconds: 0, signIns: [] },
    {
      'POST /api/people/p/code': () =>
        refuse
          ? new Refusal(409, 'notNow', 'Somebody deactivated them meanwhile.')
          : { signInCode: 'red-otter-7' },
    },
  );
  await page.press('New sign-in code');
  expect(page.said()).toBe('Somebody deactivated them meanwhile.');
  refuse = false;
  await page.press('New sign-in code');
  expect(page.said()).toContain('The old password and all sign-ins of this person have ended.');
});

test('an auditor sees where, and ends nothing', async () => {
  await open({ lockedSeconds: 90, signIns: [place] }, {}, 'auditor');
  expect(page.text()).toContain('192.0.2.7');
  expect(page.shown.findAll('button')).toHaveLength(0);
});

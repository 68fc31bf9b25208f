// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { Person } from '../../api/client.ts';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { type AgentLive, useLive } from '../../shell/live.ts';
import { around, somebody } from './person.testing.ts';
import PersonSheet from './PersonSheet.vue';

let page: OpenPage;
afterEach(() => page.close());

const open = (person: Person, answers: Answers = {}, role = 'administrator') =>
  openPage(PersonSheet, { ...around, ...answers }, { role, props: { person, users: [] } });
async function lives(as: Partial<AgentLive>): Promise<void> {
  useLive().agents.set('p', {
    ...{ personId: 'p', name: 'Ines Calloway', state: 'available', since: Date.now(), phone: 'registered' },
    ...{ phoneWhy: '', awayReason: null, callIds: [], line: null, reachedBy: 'phone' },
    ...as,
  } as unknown as AgentLive);
  await page.settled();
}

test('a change is sent with the version it was made on, and can be taken back', async () => {
  page = await open(somebody(), {
    'PUT /api/people/p': somebody({ version: 5 }),
    'GET /api/items/p/history': [{ id: 77, canBeTakenBack: true }],
  });
  await page.fill('Name', 'Ines Calloway-Fenn');
  await page.fill('Own wrap-up in seconds', '45');
  await page.press('Save');
  const [change] = page.sent;
  expect(change!.version).toBe('"4"');
  expect(change!.body).toMatchObject({ name: 'Ines Calloway-Fenn', wrapUpSeconds: 45, extension: '2104' });
  expect(page.said()).toBe('Ines Calloway-Fenn is saved.');
});

test('of two who change the same, both versions are shown, and mine is saved over theirs when I say so', async () => {
  const theirs = somebody({ version: 9, ringSeconds: 60 });
  let tries = 0;
  page = await open(somebody(), {
    'PUT /api/people/p': () => {
      if (tries++ > 0) return theirs;
      const refusal = new Refusal(412, 'changedMeanwhile', 'Jo changed this while you were at it.');
      return new Response(JSON.stringify({ ...refusal.body, current: theirs, by: 'Jo Marrash' }), {
        status: 412,
        headers: { 'content-type': 'application/json' },
      });
    },
  });
  await page.fill('Seconds it rings', '35');
  await page.press('Save');
  const conflict = page.shown.find('.conflict').text().replace(/\s+/g, ' ');
  expect(conflict).toContain('Jo Marrash changed this while you were at it');
  expect(conflict).toMatch(/Rings for.*35.*60/);
  await page.press('Save mine over theirs');
  expect(page.sent.map(({ version }) => version)).toEqual(['"4"', '"9"']);
  expect(page.shown.find('.conflict').exists()).toBe(false);
});

test('a supervisor reads, and says who is away and why; nothing else is offered', async () => {
  page = await open(somebody(), { 'POST /api/people/p/state': null }, 'supervisor');
  expect(page.shown.find('#sheet-name').attributes('readonly')).toBeDefined();
  expect(page.text()).not.toContain('Deactivate');
  await lives({ state: 'available' });
  await page.fill('Reason for being away', 'lunch');
  await page.press('Set away');
  expect(page.sent[0]!.body).toEqual({ state: 'away', reason: 'lunch' });
});

test.each([
  ['signedOut', 'Sign in', 'available'],
  ['away', 'Back from away', 'available'],
  ['wrappingUp', 'End wrap-up', 'wrapUpOver'],
  ['available', 'Sign out', 'signedOut'],
] as const)('who is %s is offered: %s', async (state, offered, asked) => {
  page = await open(somebody(), { 'POST /api/people/p/state': null });
  await lives({ state });
  await page.press(offered);
  expect(page.sent[0]!.body).toEqual({ state: asked });
});

test('why a phone is not there is said in words', async () => {
  page = await open(somebody());
  await lives({ phone: 'refused', phoneWhy: 'wrong password' });
  expect(page.text()).toContain('The registrar refused it: wrong password.');
  await lives({ phone: 'unregistered', phoneWhy: '' });
  expect(page.text()).toContain('It has never registered.');
  await lives({ phone: 'unregistered', phoneWhy: 'no answer for 90 s' });
  expect(page.text()).toContain('It is away: no answer for 90 s.');
});

test('whoever still leads calls here cannot be deactivated, and is told what to do', async () => {
  page = await open(somebody(), {
    'POST /api/people/p/retire': new Refusal(
      409,
      'inUse',
      'Main line still uses Ines. Send it elsewhere first.',
    ),
  });
  await page.press('Deactivate');
  expect(page.said()).toBe('Main line still uses Ines. Send it elsewhere first.');
});

test('being reached outside needs a trunk, and says what it costs', async () => {
  const trunk = { id: 'k', name: 'Sound Telecom', version: 1, retired: false };
  const prices = [{ prefix: '+1', perMinute: '0.02', perCall: '0' }];
  page = await open(somebody());
  await page.fill('Also reached on an outside number', true);
  expect(page.said()).toContain('no trunk yet');
  page.close();
  page = await open(somebody(), { 'GET /api/trunks': [{ ...trunk, prices }] });
  await page.settled();
  await page.fill('Also reached on an outside number', true);
  await page.fill('Number', '+1 250 555 0181');
  expect(page.text()).toContain('over Sound Telecom');
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import { useTestCall } from '../../shell/test-call.ts';
import HomePage from './HomePage.vue';

let page: OpenPage;
afterEach(() => page.close());

const counts = {
  ...{ people: 12, agents: 10, registered: 9, signedIn: 4, queues: 3, staffedQueues: 2, numbers: 5 },
  ...{ plans: 1, publishedPlans: 1, routedNumbers: 4, trunks: 1, reachedTrunks: 1, rules: 2, soundRules: 2 },
  ...{ records: 40, connections: 1, readConnections: 1, sources: 2, numberedSources: 1, campaigns: 1 },
  ...{ runningCampaigns: 0, calls: 90, callsReachedSomebody: 80 },
};
const finding = (itemId: string, more: object = {}) => ({
  ...{
    area: 'queues',
    code: 'queueWithoutMembers',
    severity: 'fault',
    itemId,
    itemName: `Queue ${itemId}`,
    detail: null,
  },
  ...more,
});
const home = (more: object = {}) => ({ counts, findings: [], since: [], ifSomeoneRang: [], ...more });
const open = async (view: object, answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    HomePage,
    { 'GET /api/home': view, 'POST /api/test-calls': {}, ...answers },
    { role },
  );
  await page.settled();
};

test('how much is to be fixed is counted, and only a few of an area are shown', async () => {
  await open(home({ findings: ['a', 'b', 'c', 'd', 'e'].map((id) => finding(id)) }));
  expect(page.text()).toContain('5 things to fix, 5 of them faults.');
  const rest = page.shown.findAll('a[href="/queues"]').map((link) => link.text());
  expect(rest).toContain('2 more');
});

test('the first thing to fix is a key away', async () => {
  await open(home({ findings: [finding('01890000-0000-7000-8000-00000000000a')] }));
  await page.key('f');
  expect(page.address()).toContain('/queues');
});

test('whoever would answer each number is said, and that nobody would is a fault', async () => {
  const number = (id: string, kind: string, name: string | null) => ({
    ...{ numberId: id, e164: `+1206555014${id}`, label: 'Main line', kind, name, afterMs: 4_000, story: [] },
  });
  await open(home({ ifSomeoneRang: [number('0', 'answered', 'Ines Calloway'), number('1', 'ended', null)] }));
  const rows = page.shown.findAll('aside li').map((row) => row.text());
  expect(rows[0]).toContain('Ines Calloway');
  expect(rows[1]).toContain('Nobody');
  await page.shown.find('aside li button').trigger('click');
  await page.settled();
  expect(useTestCall().to.replace(/\D/g, '')).toBe('12065550140');
});

test('it is read again when the server says that it has changed', async () => {
  let findings = [finding('a')];
  await open(() => home({ findings }));
  expect(page.text()).toContain('1 thing to fix');
  findings = [];
  useLive().homeChanges++;
  await page.settled();
  expect(page.text()).toContain('Nothing to fix.');
});

test('that it cannot be read is said in the words of the server', async () => {
  await open(new Refusal(503, 'exchangeAway', 'The exchange is catching up. Try again in a moment.'));
  expect(page.text()).toContain('The exchange is catching up. Try again in a moment.');
});

test('an empty area says how to begin, to whoever may', async () => {
  const nothing = home({ counts: { ...counts, trunks: 0, reachedTrunks: 0 } });
  await open(nothing);
  expect(page.text()).toContain('Make a trunk');
  page.close();
  await open(nothing, {}, 'auditor');
  expect(page.text()).toContain('No line to a provider');
  expect(page.text()).not.toContain('Make a trunk');
});

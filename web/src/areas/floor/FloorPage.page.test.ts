// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { type AgentLive, type CallLive, useLive } from '../../shell/live.ts';
import FloorPage from './FloorPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const queue = (id: string, name: string, members: string[]) => ({
  ...{ id, name, version: 1, retired: false, members, maxWaitSeconds: 300 },
  ...{ distribution: 'longestIdle', goalPercent: 80, goalSeconds: 20 },
});
const agent = (personId: string, more: Partial<AgentLive> = {}) =>
  useLive().agents.set(personId, {
    ...{ personId, name: `Agent ${personId}`, teamId: null, state: 'available', since: 0, eligible: true },
    ...{ phone: 'registered', reachedBy: 'softphone', callIds: [], line: null, awayReason: null },
    ...more,
  } as unknown as AgentLive);
const call = (callId: string, more: Partial<CallLive> = {}) =>
  useLive().calls.set(callId, {
    ...{ callId, direction: 'inbound', stage: 'waiting', queueId: 'q', arrivedAt: Date.now() - 60_000 },
    ...{ from: '+13605550117', to: '+12065550140', callerName: null, campaignId: null, personId: null },
    ...more,
  } as unknown as CallLive);
const open = async (queues: object[], answers: Answers = {}, role = 'supervisor') => {
  page = await openPage(
    FloorPage,
    {
      'GET /api/queues': queues,
      'GET /api/queue-levels': [],
      'GET /api/emergency-calls': [],
      'GET /api/directory': [],
      ...answers,
    },
    { role },
  );
  await page.settled();
};
const column = (name: string) => page.shown.find(`section[aria-label="${name}"]`);
const listed = (name: string) =>
  column(name)
    .findAll('h3, li')
    .map((each) => each.text().replace(/\s+/g, ' '));

const free = (...next: string[]) =>
  useLive().queues.set('q', {
    ...{ queueId: 'q', waiting: 0, offering: 0, longestSince: null, signedIn: 4, idle: next.length, next },
  });

test('who rings next stands in the order in which the exchange would ring them', async () => {
  await open([queue('q', 'Bookings', ['a', 'b', 'c', 'd'])]);
  free('b', 'a');
  agent('a', { since: 3_000 });
  agent('b', { since: 1_000 });
  agent('c', { state: 'talking', eligible: false, callIds: ['x'] });
  agent('d', { state: 'away', eligible: false, awayReason: 'lunch' });
  await page.settled();
  const words = listed('Bookings').join(' | ');
  expect(words).toMatch(/Rings next.*Agent b.*Agent a.*Busy.*Agent c.*Will not be rung.*Agent d/);
});

test('members of a team stand there with those named alone, each once', async () => {
  await open([queue('q', 'Bookings', ['a', 't'])]);
  free('a', 'b');
  agent('a', { teamId: 't' });
  agent('b', { teamId: 't' });
  await page.settled();
  expect(column('Bookings').findAll('li')).toHaveLength(2);
});

test('those signed out are shown when one wants to see them', async () => {
  await open([queue('q', 'Bookings', ['a'])]);
  agent('a', { state: 'signedOut', eligible: false });
  await page.settled();
  expect(page.text()).toContain('Nobody is signed in');
  await page.fill('with those signed out', true);
  expect(listed('Bookings')).toHaveLength(2);
});

test('how many wait is counted over all queues; calls beside the queues are named', async () => {
  await open([queue('q', 'Bookings', [])]);
  useLive().queues.set('q', {
    queueId: 'q',
    waiting: 2,
    offering: 1,
    longestSince: 0,
    signedIn: 0,
    idle: 0,
    next: [],
  });
  call('1');
  call('2', { arrivedAt: Date.now() - 90_000 });
  call('3', { queueId: null, stage: 'talking' });
  await page.settled();
  expect(page.text()).toContain('3 callers waiting');
  expect(column('Bookings').text()).toContain('2 waiting');
  expect(page.text()).toContain('1 call outside the queues');
});

test('a supervisor puts somebody on a break from here; an auditor only looks', async () => {
  await open([queue('q', 'Bookings', ['a'])], {
    'POST /api/people/a/state': new Refusal(409, 'notNow', 'Agent a is on a call.'),
  });
  agent('a');
  await page.settled();
  await column('Bookings').find('li button').trigger('click');
  await page.settled();
  await page.press('Put on a break');
  expect(page.sent[0]!.body).toEqual({ state: 'away', reason: 'break' });
  expect(page.said()).toBe('Agent a is on a call.');
  page.close();
  await open([queue('q', 'Bookings', ['a'])], {}, 'auditor');
  agent('a');
  await page.settled();
  await column('Bookings').find('li button').trigger('click');
  await page.settled();
  expect(page.text()).not.toContain('Put on a break');
});

test('who is free and does not fit yet is not among those who ring next; how the day goes stands at the head', async () => {
  await open([{ ...queue('q', 'Bookings', ['a', 'b']), distribution: 'random' }], {
    'GET /api/queue-levels': [{ queueId: 'q', offered: 50, answered: 45, inTime: 43 }],
  });
  free('b');
  agent('a');
  agent('b');
  await page.settled();
  expect(listed('Bookings').join(' | ')).toMatch(
    /One of these rings next.*Agent b.*Will not be rung.*Agent a/,
  );
  expect(column('Bookings').text()).toContain('86 % within 0:20, 80 % aimed at');
});

test('without a queue it says what will stand here', async () => {
  await open([]);
  expect(page.text()).toContain('No queue yet.');
});

// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import { useTestCall } from '../../shell/test-call.ts';
import CallPage from './CallPage.vue';

let page: OpenPage;
afterEach(() => {
  vi.useRealTimers();
  page.close();
});

const at = Date.UTC(2026, 10, 20, 20);
const arrived = {
  ...{ callId: 'c', at, kind: 'arrived', from: '+13605550117', to: '+12065550140', numberId: 'n' },
  ...{ label: 'Main line', callerName: null, record: null, sourceId: null, sourceName: null, standIn: true },
};
const ended = { callId: 'c', at: at + 60_000, kind: 'ended', result: 'abandoned', by: 'caller' };
const answer = (more: object = {}) => ({
  call: {
    ...{ id: 'c', direction: 'inbound', result: 'abandoned', rehearsed: false, queueName: null },
    ...{
      from: '+13605550117',
      to: '+12065550140',
      waitedMs: 60_000,
      talkedMs: 0,
      arrivedAt: new Date(at).toISOString(),
    },
    ...{ numberLabel: 'Main line', endedBy: 'caller', messageMs: null, personName: null, sourceName: null },
  },
  ...{ story: [arrived, ended], inProgress: null, earlier: 'b', later: null, outcome: null, record: null },
  ...more,
});
const open = async (answers: Answers, role = 'supervisor') => {
  page = await openPage(
    CallPage,
    {
      'GET /api/calls/c': answer(),
      'GET /api/calls/c/recordings': [],
      'POST /api/test-calls': {},
      ...answers,
    },
    { role, at: '/calls/c', props: { id: 'c' } },
  );
  await page.settled();
};

test('it says who called, when by the company’s clock, and that no agent was chosen', async () => {
  await open({});
  expect(page.text()).toMatch(/Call from .*360.*555.*0117/);
  expect(page.text()).toContain('12:00:00, finished');
  expect(page.text()).toContain('No agent was chosen');
});

test('an earlier call is a press or a key away', async () => {
  await open({ 'GET /api/calls/b': answer(), 'GET /api/calls/b/recordings': [] });
  await page.key('[');
  expect(page.address()).toBe('/calls/b');
});

test('a caller is turned away by one press; who may not operate has none', async () => {
  await open({ 'POST /api/calls/c/block': { name: '+1 360 555 0117' } });
  await page.press(/turn|block/i);
  expect(page.said()).toContain('is turned away for 90 days. The blocked list takes it back.');
  page.close();
  await open({}, 'auditor');
  expect(
    page.shown
      .findAll('button')
      .map((each) => each.text())
      .join(),
  ).not.toMatch(/turn .*away|block/i);
});

test('a call placed this moment is asked for again until it is known', async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  let tries = 0;
  await open({
    'GET /api/calls/c': () =>
      ++tries < 3 ? new Refusal(404, 'notFound', 'There is no such call.') : answer(),
  });
  expect(tries).toBe(1);
  await vi.advanceTimersByTimeAsync(320);
  await vi.advanceTimersByTimeAsync(320);
  vi.useRealTimers();
  await page.settled();
  expect(tries).toBe(3);
  expect(page.text()).toContain('finished');
});

test('one that is not there says so', async () => {
  await open({ 'GET /api/calls/c': new Refusal(403, 'notAllowed', 'This call is not one of yours.') });
  expect(page.text()).toContain('This call is not one of yours.');
});

test('it is followed while it happens, and not any more once it is over', async () => {
  let reads = 0;
  await open({
    'GET /api/calls/c': () => {
      reads++;
      return reads === 1
        ? answer({ call: null, inProgress: { stage: 'waiting', since: at }, story: [arrived] })
        : answer();
    },
  });
  expect(page.text()).toContain('in progress');
  useLive().endedCalls = ['c'];
  await page.settled();
  expect(page.text()).toContain('finished');
  useLive().endedCalls = ['other'];
  await page.settled();
  expect(reads).toBe(2);
});

test('tried again it is a test call of the same caller to the same number', async () => {
  await open({});
  await page.press(/again|test/i);
  const test = useTestCall();
  expect([test.from, test.to].map((each) => each.replace(/\D/g, ''))).toEqual(['13605550117', '12065550140']);
});

// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from 'vitest';
import { type Answers, type OpenPage, openPage } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import CallsPage from './CallsPage.vue';

let page: OpenPage;
afterEach(() => {
  vi.useRealTimers();
  page.close();
});

const call = (id: string, minute: number, more: object = {}) => ({
  ...{ id, direction: 'inbound', from: '+13605550117', to: '+12065550140', result: 'answered' },
  ...{
    arrivedAt: new Date(Date.UTC(2026, 10, 20, 12, minute)).toISOString(),
    waitedMs: 1_000,
    talkedMs: 2_000,
  },
  ...{ personId: null, queueId: null, campaignId: null, sourceId: null, numberId: null, recordName: null },
  ...more,
});
let calls: ReturnType<typeof call>[];
const list = ({ query }: { query: URLSearchParams }) => ({
  calls: query.has('behind') ? [call('old', 1)] : calls,
  totals:
    query.get('totals') === 'true'
      ? [
          { result: 'answered', count: 40 },
          { result: 'left', count: 2 },
        ]
      : [],
  more: !query.has('behind'),
});
const open = async (at = '/calls', answers: Answers = {}) => {
  calls = [call('a', 9)];
  page = await openPage(CallsPage, { 'GET /api/calls': list, ...answers } as Answers, { at });
};
const read = () => page.asked.filter(({ path }) => path === '/api/calls').map(({ query }) => query);

test('rows are not held up by the count: the first request leaves it out', async () => {
  await open();
  expect(page.text()).toContain('42 calls are over, 40 of them answered.');
  const [first, second] = read();
  expect([first!.get('totals'), first!.get('limit')].sort()).toEqual(['1', 'true']);
  expect(second!.get('totals')).toBe('false');
});

test('what it is narrowed to is asked of the server, in days of the company’s clock', async () => {
  await open('/calls?direction=outbound&from=2026-11-20&to=2026-11-20');
  const asked = read().at(-1)!;
  expect(asked.get('direction')).toBe('outbound');
  expect([asked.get('from'), asked.get('to')]).toEqual([
    '2026-11-20T08:00:00.000Z',
    '2026-11-21T08:00:00.000Z',
  ]);
});

test('narrowed to a ring group, it shows those its phones ring for now, and asks for those that are over', async () => {
  await open('/calls?ringGroupId=g');
  expect(read().at(-1)!.get('ringGroupId')).toBe('g');
  const rings = (callId: string, ringGroupId: string | null) =>
    useLive().calls.set(callId, {
      ...{ callId, ringGroupId, direction: 'inbound', from: '+13605550117', to: '+12065550140' },
      ...{ stage: 'ringing', arrivedAt: Date.now(), callerName: `Caller ${callId}`, answeredAt: null },
      ...{ campaignId: null, queueId: null, sourceId: null, personId: null, numberId: null },
    } as never);
  rings('x', 'g');
  rings('y', 'other');
  rings('z', null);
  await page.settled();
  expect(page.text()).toContain('1 in progress.');
  expect(page.text()).toContain('Caller x');
  expect(page.text()).not.toMatch(/Caller [yz]/);
});

test('a call that ends is put on top, many of them by one reading', async () => {
  vi.useFakeTimers({ toFake: ['Date', 'setTimeout', 'clearTimeout'] });
  await open();
  page.asked.length = 0;
  calls = [call('b', 20), call('a', 9)];
  for (let i = 0; i < 5; i++) {
    useLive().endedCalls = [`e${i}`];
    await page.settled();
  }
  expect(read().filter((query) => query.get('limit') === '50')).toHaveLength(1);
  await vi.advanceTimersByTimeAsync(600);
  await page.settled();
  expect(read().filter((query) => query.get('limit') === '50')).toHaveLength(2);
  const times = page.shown.findAll('tbody td:nth-child(2)').map((cell) => cell.text());
  expect(times.length).toBeGreaterThanOrEqual(2);
  expect(times[0]! > times[1]!).toBe(true);
});

test('calls in progress stand above those that are over, unless a result is asked for', async () => {
  await open();
  useLive().calls.set('now', {
    ...{ callId: 'now', direction: 'inbound', from: '+13605550118', to: '+12065550140', stage: 'waiting' },
    ...{
      since: Date.now(),
      arrivedAt: Date.now(),
      personId: null,
      queueId: null,
      campaignId: null,
      sourceId: null,
    },
    ...{ numberId: null, recordId: null, parties: [] },
  } as never);
  await page.settled();
  expect(page.text()).toContain('1 in progress. 42 calls are over');
});

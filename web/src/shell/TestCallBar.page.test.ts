// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../page.testing.ts';
import TestCallBar from './TestCallBar.vue';
import { useLive } from './live.ts';
import { useTestCall } from './test-call.ts';

let page: OpenPage;
afterEach(() => {
  vi.useRealTimers();
  page.close();
});

const answer = (outcome: object) => ({
  ...{ to: '+12065550140', at: 0, story: [], assumptions: [], hand: null },
  outcome: { kind: 'ended', result: null, name: null, afterMs: 62_000, ...outcome },
});
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    TestCallBar,
    {
      'GET /api/numbers': [{ id: 'n', e164: '+12065550140', label: 'Main line', name: 'Main line' }],
      'POST /api/test-calls': answer({ kind: 'answered', name: 'Ines Calloway' }),
      ...answers,
    },
    { role },
  );
  await page.settled();
};
const calls = () => page.sent.filter(({ path }) => path === '/api/test-calls');

test('it begins with the first number that leads somewhere, asked once', async () => {
  await open();
  expect(page.text()).toContain('Ines Calloway would answer at 1:02');
  expect(calls()).toHaveLength(1);
});

test.each([
  [{ kind: 'voicemail', name: 'Bookings voicemail' }, 'Bookings voicemail at 1:02'],
  [{ kind: 'forwarded', name: 'Duncan’s mobile' }, 'Sent on to Duncan’s mobile'],
  [{ kind: 'joinedRoom', name: 'Crew room' }, 'Into Crew room'],
  [{ kind: 'stillWaiting' }, 'Still waiting after 1:02'],
] as const)('how %j is said', async (outcome, words) => {
  await open({ 'POST /api/test-calls': answer(outcome) });
  expect(page.text()).toContain(words);
});

test('it follows what is typed a moment later, and once for many keys', async () => {
  await open();
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  const field = page.shown.find('#test-to');
  for (const typed of ['2', '21', '210', '2104']) {
    (field.element as HTMLInputElement).value = typed;
    await field.trigger('input');
  }
  expect(calls()).toHaveLength(1);
  await vi.advanceTimersByTimeAsync(400);
  vi.useRealTimers();
  await page.settled();
  expect(calls().map(({ body }) => (body as { to: string }).to)).toEqual(['+1 206 555 0140', '2104']);
});

test('the same number typed again is asked again: who is there may have changed', async () => {
  await open();
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  const field = page.shown.find('#test-to');
  for (const typed of ['', '+1 206 555 0140']) {
    (field.element as HTMLInputElement).value = typed;
    await field.trigger('input');
  }
  await vi.advanceTimersByTimeAsync(400);
  vi.useRealTimers();
  await page.settled();
  expect(calls()).toHaveLength(2);
});

test('a set-up that changes is tried again; keys and a moment go with it', async () => {
  await open();
  await page.shown.find('#test-keys').setValue('12');
  useLive().configurationChanges++;
  await page.settled();
  expect(calls().at(-1)!.body).toMatchObject({ keys: '12', at: null });
});

test('why it cannot be said stands in its place', async () => {
  await open({ 'POST /api/test-calls': new Refusal(422, 'invalidInput', 'Nobody has extension 9999.') });
  expect(page.shown.find('.outcome').text()).toBe('Nobody has extension 9999.');
});

test('placed live it leads to its call; an auditor only asks', async () => {
  await open({ 'POST /api/stand-ins/calls': { callId: 'c7' } });
  await page.press('Place it live');
  expect(page.sent.at(-1)!.body).toEqual({ to: '+1 206 555 0140', from: '+1 360 555 0117' });
  expect(page.address()).toBe('/calls/c7');
  page.close();
  await open({}, 'auditor');
  expect(page.text()).not.toContain('Place it live');
});

test('two answers that cross: the later question counts', async () => {
  const waiting: ((value: unknown) => void)[] = [];
  await open();
  const test = useTestCall();
  vi.stubGlobal('fetch', () => new Promise((resolve) => waiting.push(resolve)));
  test.to = '2104';
  const first = test.run();
  test.to = '2105';
  const second = test.run();
  await page.settled();
  waiting[1]!(Response.json(answer({ kind: 'answered', name: 'Second' })));
  waiting[0]!(Response.json(answer({ kind: 'answered', name: 'First' })));
  await Promise.all([first, second]);
  expect(test.answer?.outcome.name).toBe('Second');
});

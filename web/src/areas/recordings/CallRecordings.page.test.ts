// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from 'vitest';
import type { RecordingView } from '@night-bell/core/contracts/recordings';
import { type OpenPage, openPage } from '../../page.testing.ts';
import CallRecordings from './CallRecordings.vue';

let page: OpenPage;
afterEach(() => {
  page.close();
  vi.useRealTimers();
});

const talk = (more: Partial<RecordingView> = {}): RecordingView => ({
  ...{ callId: 'c', part: 1, personId: 'p', personName: 'Ines Calloway', at: Date.now() - 3_600_000 },
  ...{ seconds: 131, pausedSeconds: 0, mayHear: true, sound: { seconds: 131, peaks: [3, 60, 20] } },
  ...more,
});
const open = async (answer: unknown) => {
  page = await openPage(
    CallRecordings,
    { 'GET /api/calls/c/recordings': answer },
    { props: { callId: 'c', inProgress: false } },
  );
};

test('each talk has whose it was, how long, and what was left out; its sound is played from its own address', async () => {
  await open([talk(), talk({ part: 2, personName: 'Duncan Fairweather', pausedSeconds: 20 })]);
  expect(page.text()).toContain('Ines Calloway');
  expect(page.text()).toContain('2:11, 0:20 left out');
  expect(page.shown.findAll('button.play').map((each) => each.attributes('aria-label'))).toEqual([
    'Play talk with Ines Calloway',
    'Play talk with Duncan Fairweather',
  ]);
});

test('who may not hear one is told whom to ask; one whose sound never came says so', async () => {
  await open([talk({ mayHear: false, sound: null }), talk({ part: 2, sound: null })]);
  expect(page.text()).toContain('Heard by others. Ask a supervisor.');
  expect(page.text()).toContain('Its sound never came.');
});

test('a sound that is on its way is asked for again until it is there', async () => {
  vi.useFakeTimers({ shouldAdvanceTime: true });
  let asked = 0;
  await open(() => [talk(++asked < 3 ? { at: Date.now() - 135_000, sound: null } : {})]);
  expect(page.text()).toContain('Its sound is on its way.');
  await vi.advanceTimersByTimeAsync(5_000);
  expect(page.shown.findAll('button.play')).toHaveLength(1);
  expect(asked).toBe(3);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(asked).toBe(3);
});

test('a call of which nothing was recorded says nothing of it', async () => {
  await open([]);
  expect(page.text()).toBe('');
});

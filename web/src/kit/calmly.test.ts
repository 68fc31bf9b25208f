import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { calmly } from './calmly.ts';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

test('the first time is at once, many more are one, and the last is never lost', () => {
  let done = 0;
  const ask = calmly(() => done++, 1_000);
  ask();
  expect(done).toBe(1);
  for (let i = 0; i < 50; i++) ask();
  expect(done).toBe(1);
  vi.advanceTimersByTime(999);
  expect(done).toBe(1);
  vi.advanceTimersByTime(1);
  expect(done).toBe(2);
  vi.advanceTimersByTime(5_000);
  expect(done).toBe(2);
  ask();
  expect(done).toBe(3);
});

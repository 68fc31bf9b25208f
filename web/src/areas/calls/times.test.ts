import { expect, test } from 'vitest';
import { halfHourWords, timesFigures } from './times.ts';

test('half hours read as the clock has them', () => {
  expect([0, 1, 19, 47].map(halfHourWords)).toEqual(['0:00', '0:30', '9:30', '23:30']);
});

test('a day is drawn from its first half hour with a call to its last, empty ones between; parts add up to all', () => {
  const figures = timesFigures([
    { half: 18, calls: 5, answered: 3, lost: 1 },
    { half: 20, calls: 2, answered: 2, lost: 0 },
  ])!;
  expect(figures.labels).toEqual(['9:00', '9:30', '10:00']);
  const parts = figures.series.map(({ values }) => values);
  expect(parts[0]!.map((_, at) => parts.reduce((sum, each) => sum + (each[at] ?? 0), 0))).toEqual([5, 0, 2]);
  expect(figures.caption).toBe('7 calls, 5 answered, 1 lost. Most, 5, from 9:00 to 9:30.');
});

test('without a call there is nothing to draw', () => expect(timesFigures([])).toBeNull());

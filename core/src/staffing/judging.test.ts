import { expect, test } from 'vitest';
import { deviation, holm, mean, pairedChance, quantile } from './judging.ts';

test('means, deviations and quantiles, of none and one as well', () => {
  expect([mean([]), mean([2, 4]), deviation([3]), deviation([2, 4])]).toEqual([0, 3, 0, Math.SQRT2]);
  expect([
    quantile([], 0.5),
    quantile([5], 0.9),
    quantile([4, 1, 3, 2], 0.5),
    quantile([0, 10], 0.9),
  ]).toEqual([...[null, 5, 2.5, 9]]);
});

test('the paired test of Student’s sleep data is that of the paper: t = 4.06 at 9 degrees, p = 0.0028', () => {
  // Biometrika 6 (1908): hours of sleep gained by ten patients, the second drug over the first.
  const gains = [1.2, 2.4, 1.3, 1.3, 0.0, 1.0, 1.8, 0.8, 4.6, 1.4];
  expect(pairedChance(gains)).toBeCloseTo(0.002833, 6);
  expect(pairedChance([0, 0, 0])).toBe(1);
  expect(pairedChance([2, 2, 2])).toBe(0);
  expect(pairedChance([5])).toBe(1);
});

test('Holm holds the smallest to the strictest, and stops at the first that fails', () => {
  expect(holm([0.01, 0.04, 0.03])).toEqual([true, false, false]);
  expect(holm([0.01, 0.02, 0.03])).toEqual([true, true, true]);
  expect(holm([0.04])).toEqual([true]);
  expect(holm([])).toEqual([]);
});

import { expect, test } from 'vitest';
import { saidOf } from '../../kit/chart.ts';
import { trendFigures } from './trend.ts';

const step = (day: string, calls: number, good: number, costPerGood: string | null) => ({
  ...{ day, calls, answered: calls - 1, good, cost: '10.00', costPerGood },
});

test('a trend says its sums and its days; where no call was good there is no cost of one', () => {
  const figures = trendFigures([step('2026-11-02', 4, 2, '5.00'), step('2026-11-03', 1, 0, null)], 'day');
  expect(figures.caption).toBe('5 calls, 3 answered, 2 good.');
  expect([figures.across, figures.labels]).toEqual(['Day', ['2 Nov', '3 Nov']]);
  const cost = figures.series.at(-1)!;
  expect(cost.values).toEqual([5, null]);
  expect([saidOf(cost, 5), saidOf(cost, null)]).toEqual(['$5.00', '']);
  expect(trendFigures([], 'week')).toMatchObject({ across: 'Week from', labels: [] });
});

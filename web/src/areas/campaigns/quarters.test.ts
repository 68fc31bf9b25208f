import { expect, test } from 'vitest';
import { saidOf } from '../../kit/chart.ts';
import { quarterFigures } from './quarters.ts';

const noon = Date.parse('2026-11-27T12:07:00Z');
const clock = (at: number) => new Date(at).toISOString().slice(11, 16);
const quarter = (at: string, answered: number, abandoned: number) => ({
  ...{ at: `2026-11-27T${at}:00Z`, attempts: answered * 2, answered, abandoned },
});

test('twelve hours in quarters, the last one being the present', () => {
  const { labels, series, caption, limit } = quarterFigures(
    [quarter('12:00', 20, 1), quarter('11:45', 10, 0), quarter('00:00', 99, 9)],
    3,
    noon,
    clock,
  );
  expect([labels.length, labels[0], labels.at(-1)]).toEqual([48, '00:15', '12:00']);
  expect(series[0]!.values.slice(-3)).toEqual([0, 10, 20]);
  // What was twelve hours ago is not shown, and not counted.
  expect(caption).toBe('30 people answered in the last twelve hours, 1 of them were abandoned.');
  expect(limit).toMatchObject({ value: 3, right: true });
});

test('where nobody answered there is no share: a gap, not nothing', () => {
  const [, share] = quarterFigures([quarter('12:00', 8, 1)], 3, noon, clock).series;
  expect(share!.values.slice(-2)).toEqual([null, 12.5]);
  expect([saidOf(share!, 12.5), saidOf(share!, null)]).toEqual(['12.5 %', '']);
});

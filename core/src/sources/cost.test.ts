import fc from 'fast-check';
import { expect, test } from 'vitest';
import { civil, costBetween, daysFromCivil } from './cost.ts';

const day = (text: string) => Date.parse(`${text}T00:00Z`) / 86_400_000;

test('a monthly cost is spread over the days of each month', () => {
  const cost = { cents: 31_000, per: 'month' as const, fromDay: day('2026-01-01') };
  expect(costBetween(cost, day('2026-10-01'), day('2026-11-01'))).toBe(31_000);
  expect(costBetween(cost, day('2026-10-01'), day('2026-10-02'))).toBe(1_000);
  expect(costBetween(cost, day('2026-02-01'), day('2026-02-15'))).toBe(15_500);
  expect(costBetween({ ...cost, fromDay: day('2026-10-31') }, day('2026-10-01'), day('2026-11-01'))).toBe(
    1_000,
  );
});

test('what is paid once counts on its day', () => {
  const cost = { cents: 5_000, per: 'once' as const, fromDay: day('2026-10-10') };
  expect(costBetween(cost, day('2026-10-10'), day('2026-10-11'))).toBe(5_000);
  expect(costBetween(cost, day('2026-10-11'), day('2026-12-01'))).toBe(0);
});

test('parts of a stretch add up to the whole, but for rounding', () => {
  const days = fc.integer({ min: 20_000, max: 22_000 });
  fc.assert(
    fc.property(fc.nat({ max: 1_000_000 }), days, days, days, (cents, one, two, three) => {
      const [from, middle, to] = [one, two, three].sort((a, b) => a - b) as [number, number, number];
      const cost = { cents, per: 'month' as const, fromDay: 20_100 };
      const parts = costBetween(cost, from, middle) + costBetween(cost, middle, to);
      expect(Math.abs(parts - costBetween(cost, from, to))).toBeLessThanOrEqual(1);
    }),
  );
});

test('the calendar is the platform’s', () => {
  fc.assert(
    fc.property(fc.integer({ min: -200_000, max: 200_000 }), (number) => {
      const date = new Date(number * 86_400_000);
      const read = civil(number);
      expect(read).toEqual({
        year: date.getUTCFullYear(),
        month: date.getUTCMonth() + 1,
        day: date.getUTCDate(),
      });
      expect(daysFromCivil(read.year, read.month, read.day)).toBe(number);
    }),
  );
});

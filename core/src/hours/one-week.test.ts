import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { dayOfDate } from './civil.ts';
import type { Range } from './opening-hours.ts';
import { mondayOf, type UnusualDay, weekAt, withWeekAt } from './one-week.ts';
import type { Week } from './week.ts';

const nine: Range[] = [[540, 1_020]];
const weekly: Week = [nine, nine, nine, nine, nine, [], []];
const christmas: UnusualDay = { date: '2026-12-25', name: 'Christmas Day', holiday: true, ranges: [] };
/** Of the week of Christmas, which is a Friday. */
const monday = dayOfDate('2026-12-21');
const drawnOn = (day: number, ranges: Range[], days: UnusualDay[] = [christmas]) =>
  withWeekAt(
    weekly,
    days,
    monday,
    weekAt(weekly, days, monday).map((each, at) => (at === day ? ranges : each)),
  );

test('a week is as every week, but for its unusual days', () => {
  expect(mondayOf(dayOfDate('2026-12-25'))).toBe(monday);
  expect(mondayOf(monday)).toBe(monday);
  expect(weekAt(weekly, [christmas], monday)).toEqual([nine, nine, nine, nine, [], [], []]);
  expect(weekAt(weekly, [christmas], monday + 7)).toEqual(weekly);
});

describe('a day of it that is drawn otherwise', () => {
  const half: Range[] = [[540, 720]];

  test('is unusual from then on; the others stay as they are', () => {
    expect(drawnOn(3, half)).toEqual([
      christmas,
      { date: '2026-12-24', name: '', holiday: false, ranges: half },
    ]);
  });

  test('keeps its name when it had one', () => {
    expect(drawnOn(4, half)).toEqual([{ ...christmas, ranges: half }]);
    // A holiday that is open as ever stays a holiday.
    expect(drawnOn(4, nine)).toEqual([{ ...christmas, ranges: nine }]);
  });

  test('is usual again once it is drawn as its weekday', () => {
    const days = drawnOn(3, half);
    expect(drawnOn(3, nine, days)).toEqual([christmas]);
  });
});

test('what is drawn is what the week is then, and no other week changes', () => {
  const ranges = fc.constantFrom<Range[]>([], nine, [[0, 720]], [[600, 660]]);
  fc.assert(
    fc.property(
      fc.array(ranges, { minLength: 7, maxLength: 7 }),
      fc.integer({ min: -3, max: 3 }),
      (drawn, weeks) => {
        const at = monday + 7 * weeks;
        const days = withWeekAt(weekly, [christmas], at, drawn);
        expect(weekAt(weekly, days, at)).toEqual(drawn);
        for (const other of [-7, 7])
          expect(weekAt(weekly, days, at + other)).toEqual(weekAt(weekly, [christmas], at + other));
        expect(new Set(days.map(({ date }) => date)).size).toBe(days.length);
      },
    ),
  );
});

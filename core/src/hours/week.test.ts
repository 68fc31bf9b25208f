import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Range } from './opening-hours.ts';
import { isRange } from './ranges.ts';
import {
  copied,
  moved,
  openMinutes,
  rangesText,
  readRanges,
  replaced,
  room,
  type Week,
  weekOverlaps,
  without,
  withRange,
} from './week.ts';

const closed: Week = [[], [], [], [], [], [], []];
const on = (day: number, ...ranges: Range[]): Week =>
  closed.map((before, each) => (each === day ? ranges : before));

describe('a week', () => {
  test('an end moves as far as its neighbour, and past midnight as far as the next opening', () => {
    const week = on(4, [540, 720], [780, 1_020]);
    expect(moved(week, 4, 0, 'to', 30)[4]).toEqual([
      [540, 750],
      [780, 1_020],
    ]);
    expect(moved(week, 4, 0, 'to', 600)[4]![0]).toEqual([540, 780]);
    const late = withRange(week, 5, [60, 300])!;
    expect(moved(late, 4, 1, 'to', 900)[4]![1]).toEqual([780, 60]);
    expect(moved(late, 5, 0, 'from', -90)[5]).toEqual([[0, 300]]);
  });

  test('all of it moves together; its start stays on its day', () => {
    const night = on(0, [1_320, 360]);
    expect(moved(night, 0, 0, 'both', 60)[0]).toEqual([[1_380, 420]]);
    expect(moved(night, 0, 0, 'both', 600)[0]).toEqual([[1_439, 479]]);
    expect(moved(night, 0, 0, 'both', -2_000)[0]).toEqual([[0, 480]]);
    expect(moved(night, 3, 0, 'both', 15)).toBe(night);
  });

  test('Sunday night runs into Monday', () => {
    const week = withRange(on(6, [1_320, 360]), 0, [480, 960])!;
    expect(moved(week, 6, 0, 'to', 600)[6]).toEqual([[1_320, 480]]);
    expect(withRange(week, 0, [300, 400])).toBeNull();
    expect(room(week, 0, 300, 60)).toBeNull();
    expect(room(week, 0, 420, 480)).toEqual([420, 480]);
  });

  test('typed, copied, taken out', () => {
    const week = on(0, [540, 1_020]);
    expect(replaced(week, 0, 0, [600, 600])).toBeNull();
    expect(replaced(week, 0, 0, [600, 90])![0]).toEqual([[600, 90]]);
    const all = copied(week, 0, [0, 1, 2, 3, 4])!;
    expect(openMinutes(all)).toBe(5 * 480);
    expect(copied(on(0, [600, 660], [1_320, 420]), 0, [1, 2])).not.toBeNull();
    expect(copied(withRange(on(0, [1_320, 420]), 1, [480, 500])!, 1, [2])).not.toBeNull();
    expect(copied(on(0, [360, 330]), 0, [0, 1])).not.toBeNull();
    expect(without(all, 2, 0)[2]).toEqual([]);
  });

  test.each<[string, Range[] | null]>([
    ['9-17', [[540, 1_020]]],
    [
      '09:00 to 12:00, 13 – 17:30',
      [
        [540, 720],
        [780, 1_050],
      ],
    ],
    ['closed', []],
    ['', []],
    ['all day', [[0, 1_440]]],
    ['10pm-6am', [[1_320, 360]]],
    ['9-12 and 11-14', null],
    ['nine to five', null],
    ['9', null],
  ])('%s is read', (text, ranges) => expect(readRanges(text)).toEqual(ranges));

  test('what is shown can be typed', () => {
    expect(
      readRanges(
        rangesText([
          [540, 720],
          [1_320, 360],
        ]),
      ),
    ).toEqual([
      [540, 720],
      [1_320, 360],
    ]);
    expect(rangesText([])).toBe('closed');
  });

  test('whatever is done to it, nothing ever overlaps and every range is one', () => {
    const edit = fc.record({
      does: fc.constantFrom('add', 'from', 'to', 'both', 'out'),
      day: fc.nat(6),
      index: fc.nat(2),
      by: fc.integer({ min: -1_500, max: 1_500 }),
      range: fc.tuple(fc.nat(1_439), fc.nat(1_440)),
    });
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 40 }), (edits) => {
        let week: Week = closed;
        for (const { does, day, index, by, range } of edits) {
          if (does === 'add') week = withRange(week, day, range) ?? week;
          else if (does === 'out') week = without(week, day, index);
          else week = moved(week, day, index, does as 'from' | 'to' | 'both', by);
          expect(weekOverlaps(week)).toBe(false);
          for (const each of week.flat()) expect(isRange(each)).toBe(true);
        }
      }),
      { numRuns: 500 },
    );
  });
});

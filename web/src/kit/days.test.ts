import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { dateOfDay } from '@night-bell/core/hours/civil';
import {
  asDate,
  dayInWords,
  momentInWords,
  nearStretches,
  ofDate,
  readDay,
  readMoment,
  readStretch,
  stretchInWords,
} from './days.ts';

/** A Saturday. */
const today = '2026-11-28';

describe('a day', () => {
  test.each([
    ['24 Dec', '2026-12-24', '2025-12-24'],
    ['1 Nov', '2027-11-01', '2026-11-01'],
    ['Fri', '2026-12-04', '2026-11-27'],
    ['saturday', today, today],
    ['yesterday', '2026-11-27', '2026-11-27'],
    ['24.12.2026', '2026-12-24', '2026-12-24'],
  ])('%s, still to come or over', (typed, coming, past) => {
    expect(readDay(typed, today)).toBe(coming);
    expect(readDay(typed, today, 'past')).toBe(past);
  });

  test('reads back whatever it shows', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40_000 }), (day) => {
        const date = dateOfDay(day);
        expect(readDay(dayInWords(date), today)).toBe(date);
        expect(ofDate(asDate(date)!)).toBe(date);
      }),
    );
  });

  test.each(['', '31 Feb', 'soon', '5', 'Christmas'])('“%s” is none', (typed) => {
    expect(readDay(typed, today)).toBeNull();
  });
});

describe('a stretch of days', () => {
  test.each([
    ['24 Dec to 2 Jan', '2026-12-24', '2027-01-02'],
    ['1 to 5 March', '2027-03-01', '2027-03-05'],
    ['1 - 5 March', '2027-03-01', '2027-03-05'],
    ['24 Dec – 26 Dec 2027', '2026-12-24', '2027-12-26'],
    ['tomorrow', '2026-11-29', '2026-11-29'],
    ['last 7 days', '2026-11-22', today],
    ['last month', '2026-10-01', '2026-10-31'],
    ['Next week', '2026-11-30', '2026-12-06'],
    ['2026-12-01 to 2026-12-03', '2026-12-01', '2026-12-03'],
  ])('%s', (typed, from, to) => {
    expect(readStretch(typed, today, 'coming')).toEqual({ from, to });
  });

  test('that is over ends after it began', () => {
    expect(readStretch('24 Dec to 2 Jan', today, 'past')).toEqual({ from: '2025-12-24', to: '2026-01-02' });
  });

  test.each(['5 March 2027 to 1 March 2027', 'a to b', '1 Dec to', '1 to 2 to 3 Dec'])(
    '“%s” is none',
    (typed) => {
      expect(readStretch(typed, today, 'coming')).toBeNull();
    },
  );

  test('those near never end before they begin, and what is over is over', () => {
    for (let day = 20_000; day < 20_400; day++)
      for (const { stretch } of nearStretches(dateOfDay(day), 'past')) {
        expect(stretch.from <= stretch.to).toBe(true);
        expect(stretch.to <= dateOfDay(day)).toBe(true);
      }
  });

  test('is said in words that are read back', () => {
    const stretch = { from: '2026-12-24', to: '2027-01-02' };
    expect(stretchInWords(stretch)).toBe('Thu 24 Dec 2026 to Sat 2 Jan 2027');
    expect(readStretch(stretchInWords(stretch), today, 'past')).toEqual(stretch);
    expect(stretchInWords({ from: today, to: today })).toBe('Sat 28 Nov 2026');
    expect(stretchInWords({ from: today, to: '' })).toBe('since Sat 28 Nov 2026');
    expect(stretchInWords({ from: '', to: '' })).toBe('');
  });
});

test.each([
  ['24 Dec 14:30', '2026-12-24T14:30'],
  ['tomorrow 9:05', '2026-11-29T09:05'],
  ['23:59', '2026-11-28T23:59'],
  ['Thu 24 Dec 2026 14:30', '2026-12-24T14:30'],
  ['24 Dec', null],
  ['24 Dec 25:00', null],
  ['31 Feb 10:00', null],
])('the moment %s', (typed, moment) => {
  expect(readMoment(typed, today)).toBe(moment);
  if (moment !== null) expect(readMoment(momentInWords(moment), today)).toBe(moment);
});

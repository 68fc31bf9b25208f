import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { dateOfDay, dayMs, dayOfDate, weekdayOf } from './civil.ts';
import cases from './opening-hours.cases.json' with { type: 'json' };
import {
  isOpenAt,
  lengthOf,
  nextChange,
  nextSpecialDay,
  openMsOn,
  type OpeningHours,
  type Range,
  standingAt,
} from './opening-hours.ts';
import { clockText, isRange, minuteOf, tidied } from './ranges.ts';
import { minuteMs } from './zone-clock.ts';
import { clockOf } from './zone-clock.testing.ts';

const names = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
const hourMs = 60 * minuteMs;
const rangeOf = ([from, to]: string[]): Range => [minuteOf(from!)!, minuteOf(to!)!];

function hoursOf(
  zone: string,
  weekly: Range[][],
  days: OpeningHours['days'] = {},
  years: [number, number] = [2026, 2027],
): OpeningHours {
  return { id: 'h', name: 'Hours', clock: clockOf(zone, ...years), weekly, days, storm: null };
}

describe('worked cases', () => {
  test.each(cases)('$title', ({ schedule, at, open, nextChange: next }) => {
    const year = new Date(at).getUTCFullYear();
    const weekly = names.map((name) => (schedule.weekly as Record<string, string[][]>)[name]!.map(rangeOf));
    const days = Object.fromEntries(
      Object.entries((schedule.exceptions ?? {}) as unknown as Record<string, string[][]>).map(
        ([date, ranges]) => [date, { date, name: '', holiday: true, ranges: ranges.map(rangeOf) }],
      ),
    );
    const hours = hoursOf(schedule.tz, weekly, days, [year - 1, year + 2]);
    expect(isOpenAt(hours, Date.parse(at))).toBe(open);
    const found = nextChange(hours, Date.parse(at));
    expect(found === null ? null : new Date(found).toISOString().replace('.000Z', 'Z')).toBe(next);
  });
});

const nine: Range[] = [[540, 1_020]];
const everyDay = (ranges: Range[]) => names.map(() => ranges);

describe('a set', () => {
  const at = (text: string) => Date.parse(text);

  test('a day of the week has no zone; 1 January 1970 was a Thursday', () => {
    expect(weekdayOf(0)).toBe(3);
    expect(weekdayOf(dayOfDate('2026-11-23'))).toBe(0);
    expect(dateOfDay(dayOfDate('2026-02-28') + 1)).toBe('2026-03-01');
    expect(['2026-02-29', '2026-13-01', '26-1-1', ''].map(dayOfDate)).toEqual([NaN, NaN, NaN, NaN]);
    fc.assert(
      fc.property(fc.integer({ min: -150_000, max: 150_000 }), (day) => {
        expect(dateOfDay(day)).toBe(new Date(day * dayMs).toISOString().slice(0, 10));
        expect(dayOfDate(dateOfDay(day))).toBe(day);
      }),
    );
  });

  test('a holiday has a state of its own, its hours are open, a one-off closure is closed', () => {
    const days = {
      '2026-12-25': { date: '2026-12-25', name: 'Christmas', holiday: true, ranges: [] },
      '2026-12-24': {
        date: '2026-12-24',
        name: 'Christmas Eve',
        holiday: true,
        ranges: [[600, 720]] as Range[],
      },
      '2026-12-28': { date: '2026-12-28', name: 'Stocktaking', holiday: false, ranges: [] },
    };
    const hours = hoursOf('UTC', everyDay(nine), days);
    expect(standingAt(hours, at('2026-12-25T10:00:00Z'))).toMatchObject({
      state: 'holiday',
      day: { name: 'Christmas' },
    });
    expect(standingAt(hours, at('2026-12-24T11:00:00Z')).state).toBe('open');
    expect(standingAt(hours, at('2026-12-24T13:00:00Z')).state).toBe('holiday');
    expect(standingAt(hours, at('2026-12-28T10:00:00Z'))).toMatchObject({
      state: 'closed',
      day: { name: 'Stocktaking' },
    });
    expect(nextSpecialDay(hours, at('2026-12-26T00:00:00Z'))!.name).toBe('Stocktaking');
    expect(nextSpecialDay(hours, at('2026-12-29T00:00:00Z'))).toBeNull();
  });

  test('a storm lies over it and ends by itself', () => {
    const storm = { since: at('2026-11-24T10:00:00Z'), until: at('2026-11-24T12:00:00Z') };
    const hours = { ...hoursOf('UTC', everyDay(nine)), storm };
    expect(standingAt(hours, storm.since).state).toBe('storm');
    expect(standingAt(hours, storm.until).state).toBe('open');
    expect(nextChange(hours, at('2026-11-24T09:30:00Z'))).toBe(storm.since);
    expect(nextChange(hours, storm.since)).toBe(storm.until);
  });

  test('never open, and always: no change ahead', () => {
    expect(nextChange(hoursOf('UTC', everyDay([])), at('2026-06-01T00:00:00Z'))).toBeNull();
    expect(
      nextChange(hoursOf('America/Vancouver', everyDay([[0, 1_440]])), at('2026-06-01T00:00:00Z')),
    ).toBeNull();
  });

  test('a whole day has 23, 24 or 25 hours', () => {
    const hours = hoursOf('America/Los_Angeles', everyDay([[0, 1_440]]));
    const lengths = ['2026-03-08', '2026-03-09', '2026-11-01'].map((date) => dayOfDate(date));
    expect(lengths.map((day) => openMsOn(hours, day) / hourMs)).toEqual([23, 24, 25]);
  });
});

const ranges = fc
  .array(fc.tuple(fc.nat(1_439), fc.nat(1_440)).filter(isRange), { maxLength: 3 })
  .map((list) => tidied(list));
const zones = ['America/Los_Angeles', 'America/St_Johns', 'Australia/Lord_Howe', 'UTC'];
const clocks = new Map(zones.map((zone) => [zone, clockOf(zone)]));
const anyHours: fc.Arbitrary<OpeningHours> = fc
  .record({
    zone: fc.constantFrom(...zones),
    weekly: fc.array(ranges, { minLength: 7, maxLength: 7 }),
    special: fc.array(fc.tuple(fc.integer({ min: 0, max: 500 }), ranges), { maxLength: 6 }),
  })
  .map(({ zone, weekly, special }) => ({
    ...{ id: 'h', name: 'h', clock: clocks.get(zone)!, weekly, storm: null },
    days: Object.fromEntries(
      special.map(([day, list]) => {
        const date = dateOfDay(dayOfDate('2026-02-20') + day);
        return [date, { date, name: date, holiday: day % 2 === 0, ranges: list }];
      }),
    ),
  }));
/** Around the days on which clocks change, and elsewhere. */
const instant = fc.oneof(
  fc.integer({ min: Date.UTC(2026, 2, 6), max: Date.UTC(2026, 2, 10) }),
  fc.integer({ min: Date.UTC(2026, 9, 30), max: Date.UTC(2026, 10, 3) }),
  fc.integer({ min: Date.UTC(2026, 1, 1), max: Date.UTC(2027, 5, 1) }),
);

describe('whatever the hours are', () => {
  test('until the next change it is as it was, at it it is not; minute by minute', () => {
    fc.assert(
      fc.property(anyHours, instant, (hours, at) => {
        const open = isOpenAt(hours, at);
        const next = nextChange(hours, at);
        if (next !== null) {
          expect(next).toBeGreaterThan(at);
          expect(isOpenAt(hours, next)).toBe(!open);
        }
        const end = Math.min(next ?? Number.POSITIVE_INFINITY, at + 3 * dayMs);
        for (let each = Math.ceil((at + 1) / minuteMs) * minuteMs; each < end; each += minuteMs)
          if (isOpenAt(hours, each) !== open)
            expect.fail(`it changes at ${new Date(each).toISOString()} already`);
      }),
      { numRuns: 300 },
    );
  });

  test('a tidied day covers the same minutes; what touched is one range where one can say it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(1_439), fc.nat(1_440)).filter(isRange), { maxLength: 4 }),
        (list) => {
          const covered = (of: readonly Range[]) => {
            const minutes = new Uint8Array(2_880);
            for (const range of of) minutes.fill(1, range[0], range[0] + lengthOf(range));
            return minutes;
          };
          const tidy = tidied(list);
          expect(covered(tidy)).toEqual(covered(list));
          for (let i = 1; i < tidy.length; i++) {
            const end = tidy[i - 1]![0] + lengthOf(tidy[i - 1]!);
            if (tidy[i]![0] <= end)
              expect(tidy[i]![0] + lengthOf(tidy[i]!) - tidy[i - 1]![0]).toBeGreaterThanOrEqual(1_440);
          }
        },
      ),
    );
  });
});

describe('times as they are typed', () => {
  test.each([
    ['9', 540],
    ['9:30', 570],
    ['09.30', 570],
    ['0930', 570],
    ['5 pm', 1_020],
    ['12am', 0],
    ['12 pm', 720],
    ['24:00', 1_440],
    ['24:01', null],
    ['9:75', null],
    ['13 pm', null],
    ['noon', null],
  ])('%s', (text, minute) => expect(minuteOf(text)).toBe(minute));

  test('and as they are shown', () => {
    expect([0, 570, 1_440].map(clockText)).toEqual(['00:00', '09:30', '24:00']);
  });
});

import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, test } from 'vitest';
import { type CalendarDay, merged, readCalendar, writeCalendar } from './calendar.ts';

const zone = 'America/Los_Angeles';
const today = '2026-11-28';
const event = (...lines: string[]) =>
  ['BEGIN:VEVENT', 'UID:1@x', 'DTSTAMP:20260101T000000Z', ...lines, 'END:VEVENT'].join('\r\n');
const calendar = (...events: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//x//EN', ...events, 'END:VCALENDAR'].join('\r\n');
const read = (...events: string[]) => readCalendar(calendar(...events), zone, today);

describe('a calendar is read', () => {
  test('whole days are closed, over several days too; what is over is left out', () => {
    const { days, faults } = read(
      event('SUMMARY:Christmas', 'DTSTART;VALUE=DATE:20261225', 'DTEND;VALUE=DATE:20261227'),
      event('SUMMARY:Last spring', 'DTSTART;VALUE=DATE:20260401'),
    );
    expect(faults).toEqual([]);
    expect(days).toEqual([
      { date: '2026-12-25', name: 'Christmas', holiday: true, ranges: [] },
      { date: '2026-12-26', name: 'Christmas', holiday: true, ranges: [] },
    ]);
  });

  test('a yearly day comes for the years ahead, the 29th of February where there is one', () => {
    const { days } = read(
      event('SUMMARY:New Year', 'DTSTART;VALUE=DATE:20200101', 'RRULE:FREQ=YEARLY'),
      event('SUMMARY:Leap day', 'DTSTART;VALUE=DATE:20240229', 'RRULE:FREQ=YEARLY'),
    );
    expect(days.map(({ date, name }) => `${date} ${name}`)).toEqual([
      '2027-01-01 New Year',
      '2028-01-01 New Year',
      '2028-02-29 Leap day',
    ]);
  });

  test('times are hours on the clock of the set, two of them on one day, past midnight', () => {
    const { days } = read(
      event('SUMMARY:Eve', `DTSTART;TZID=${zone}:20261231T060000`, `DTEND;TZID=${zone}:20261231T120000`),
      event('SUMMARY:Eve', 'DTSTART:20261231T180000', 'DTEND:20270101T030000'),
    );
    expect(days).toEqual([
      {
        date: '2026-12-31',
        name: 'Eve',
        holiday: false,
        ranges: [
          [360, 720],
          [1_080, 180],
        ],
      },
    ]);
  });

  test.each([
    [
      event('SUMMARY:Meeting', 'DTSTART;TZID=Foo/Bar:20261201T090000', 'DTEND;TZID=Foo/Bar:20261201T100000'),
      'is in zone Foo/Bar, which neither the file nor this clock knows',
    ],
    [event('SUMMARY:Winter', 'DTSTART;VALUE=DATE:20261201', 'DTEND;VALUE=DATE:20270201'), 'is 62 days long'],
    [event('SUMMARY:Blink', 'DTSTART:20261201T090000', 'DTEND:20261201T090000'), 'takes no time'],
    [event('SUMMARY:No day'), 'has no day'],
    [
      event('SUMMARY:Tick', 'DTSTART:20261201T090000Z', 'DURATION:PT1M', 'RRULE:FREQ=SECONDLY;COUNT=100000'),
      'repeats too often to be read',
    ],
  ])('what cannot be taken is named, and the rest is taken', (bad, said) => {
    const { days, faults } = read(bad, event('SUMMARY:Christmas', 'DTSTART;VALUE=DATE:20261225'));
    expect(days.map(({ date }) => date)).toEqual(['2026-12-25']);
    expect(faults).toHaveLength(1);
    expect(faults[0]).toContain(said);
  });

  test('what is no calendar, an empty one and one of 10 MB', () => {
    expect(readCalendar('no calendar', zone, today).faults[0]).toContain('no calendar that can be read');
    expect(read().faults).toEqual(['There is no event in this calendar.']);
    expect(readCalendar('x'.repeat(10 * 1024 * 1024), zone, today)).toEqual({
      days: [],
      faults: ['A calendar of at most 2 MB is read. Bring a part of it.'],
    });
  });

  test('what is written is read again', () => {
    const days = [
      { date: '2026-12-24', name: 'Eve, short', holiday: false, ranges: [[360, 960] as const] },
      { date: '2026-12-25', name: 'Christmas', holiday: true, ranges: [] },
      {
        date: '2026-12-31',
        name: 'Night',
        holiday: false,
        ranges: [[1_080, 180] as const, [0, 60] as const].sort((a, b) => a[0] - b[0]),
      },
    ];
    expect(readCalendar(writeCalendar('Bookings', zone, days), zone, today)).toEqual({ days, faults: [] });
  });

  test('merged with what there is: added, changed, or there already', () => {
    const christmas = { date: '2026-12-25', name: 'Christmas', holiday: true, ranges: [] };
    const short = { ...christmas, ranges: [[600, 720] as const] };
    expect(merged([short], [christmas, { ...christmas, date: '2026-12-26' }])).toMatchObject({
      added: 1,
      changed: 1,
      same: 0,
    });
    expect(merged([christmas], [{ ...christmas, name: 'Noel' }])).toEqual({
      days: [christmas],
      added: 0,
      changed: 0,
      same: 1,
    });
  });
});

/** Dates on which an event with this rule takes place, from today on. */
const dates = (...lines: string[]) => read(event('SUMMARY:Day', ...lines)).days.map(({ date }) => date);

describe('what repeats', () => {
  // Rules of RFC 5545, 3.8.5.3, and holidays as calendars have them.
  test.each([
    ['FREQ=YEARLY;BYMONTH=11;BYDAY=4TH', '20201126', ['2027-11-25', '2028-11-23']],
    ['FREQ=YEARLY;BYMONTH=5;BYDAY=-1MO', '20200525', ['2027-05-31', '2028-05-29']],
    ['FREQ=YEARLY;INTERVAL=2;BYMONTH=1;BYMONTHDAY=2', '20250102', ['2027-01-02']],
    [
      'FREQ=MONTHLY;BYMONTHDAY=-1;UNTIL=20270228',
      '20261130',
      ['2026-11-30', '2026-12-31', '2027-01-31', '2027-02-28'],
    ],
    ['FREQ=WEEKLY;BYDAY=TU,TH;COUNT=4', '20261201', ['2026-12-01', '2026-12-03', '2026-12-08', '2026-12-10']],
    ['FREQ=DAILY;INTERVAL=10;COUNT=5', '20261115', ['2026-12-05', '2026-12-15', '2026-12-25']],
    ['FREQ=MONTHLY;COUNT=4', '20260831', ['2026-12-31', '2027-01-31']],
    ['FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=2', '20261130', ['2026-11-30', '2026-12-31']],
  ])('%s', (rule, start, days) => {
    expect(dates(`DTSTART;VALUE=DATE:${start}`, `RRULE:${rule}`)).toEqual(days);
  });

  test('dates are added and left out', () => {
    expect(
      dates(
        'DTSTART;VALUE=DATE:20261201',
        'RRULE:FREQ=WEEKLY;COUNT=3',
        'EXDATE;VALUE=DATE:20261208',
        'RDATE;VALUE=DATE:20261224',
      ),
    ).toEqual(['2026-12-01', '2026-12-15', '2026-12-24']);
  });

  test('an instance is moved, another one cancelled; a whole event may be cancelled too', () => {
    const series = ['UID:series', 'SUMMARY:Drill'];
    const { days, faults } = readCalendar(
      calendar(
        event(
          ...series,
          `DTSTART;TZID=${zone}:20261201T090000`,
          'DURATION:PT2H',
          'RRULE:FREQ=WEEKLY;COUNT=3',
        ),
        event(
          ...series,
          `RECURRENCE-ID;TZID=${zone}:20261208T090000`,
          `DTSTART;TZID=${zone}:20261209T130000`,
          'DURATION:PT1H',
        ),
        event(
          ...series,
          `RECURRENCE-ID;TZID=${zone}:20261215T090000`,
          `DTSTART;TZID=${zone}:20261215T090000`,
          'DURATION:PT2H',
          'STATUS:CANCELLED',
        ),
        event('UID:gone', 'SUMMARY:Gone', 'DTSTART;VALUE=DATE:20261231', 'STATUS:CANCELLED'),
      ).replaceAll('UID:1@x\r\n', ''),
      zone,
      today,
    );
    expect(faults).toEqual([]);
    expect(days.map(({ date, ranges }) => [date, ranges])).toEqual([
      ['2026-12-01', [[540, 660]]],
      ['2026-12-09', [[780, 840]]],
    ]);
  });

  test('on a clock that turns meanwhile it stays at its hour', () => {
    const days = readCalendar(
      calendar(
        event(
          'SUMMARY:Open',
          `DTSTART;TZID=${zone}:20270307T090000`,
          'DURATION:PT1H',
          'RRULE:FREQ=WEEKLY;COUNT=3',
        ),
      ),
      zone,
      today,
    ).days;
    expect(days.map(({ date, ranges }) => [date, ranges[0]])).toEqual([
      ['2027-03-07', [540, 600]],
      ['2027-03-14', [540, 600]],
      ['2027-03-21', [540, 600]],
    ]);
  });
});

describe('times of other clocks', () => {
  test.each([
    ['in UTC', ['DTSTART:20261201T170000Z', 'DTEND:20261201T190000Z'], [540, 660]],
    ['in summer time', ['DTSTART:20270701T160000Z', 'DTEND:20270701T180000Z'], [540, 660]],
    ['of another zone', ['DTSTART;TZID=Europe/Berlin:20261201T180000', 'DURATION:PT2H'], [540, 660]],
    ['over midnight here', ['DTSTART:20261202T060000Z', 'DTEND:20261202T100000Z'], [1_320, 120]],
  ])('%s are hours of this one', (_, lines, range) => {
    expect(read(event('SUMMARY:Open', ...lines)).days.map(({ ranges }) => ranges)).toEqual([[range]]);
  });

  test('a zone that the file describes by a name of its own holds', () => {
    const described = [
      ...['BEGIN:VTIMEZONE', 'TZID:House time', 'BEGIN:STANDARD', 'DTSTART:19700101T000000'],
      ...['TZOFFSETFROM:-0500', 'TZOFFSETTO:-0500', 'END:STANDARD', 'END:VTIMEZONE'],
    ].join('\r\n');
    const one = event('SUMMARY:Open', 'DTSTART;TZID=House time:20261201T120000', 'DURATION:PT1H');
    expect(read(described, one).days).toEqual([
      { date: '2026-12-01', name: 'Open', holiday: false, ranges: [[540, 600]] },
    ]);
  });

  test('what is longer than a day is on each of its days', () => {
    const { days } = read(event('SUMMARY:Fair', 'DTSTART:20261204T180000', 'DTEND:20261206T120000'));
    expect(days.map(({ date, ranges }) => [date, ranges])).toEqual([
      ['2026-12-04', [[1_080, 1_440]]],
      ['2026-12-05', [[0, 1_440]]],
      ['2026-12-06', [[0, 720]]],
    ]);
  });
});

describe('what is written', () => {
  const dayOf = fc
    .integer({ min: 0, max: 700 })
    .map((day) => new Date(Date.UTC(2026, 10, 28 + day)).toISOString().slice(0, 10));
  const minute = fc.integer({ min: 0, max: 95 }).map((quarter) => quarter * 15);
  const range = fc.tuple(minute, minute).filter(([from, to]) => from !== to && !(to === 0));
  const someDay = fc.record({
    date: dayOf,
    name: fc.stringMatching(/^[A-Za-z ,;\\é]{1,20}[a-z]$/).map((name) => name.trim()),
    ranges: fc.option(
      range.map((each) => [each]),
      { nil: [] as [number, number][] },
    ),
  });
  test('in any zone it is read back as it was', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(someDay, { maxLength: 8, selector: ({ date }) => date }),
        fc.constantFrom('America/Los_Angeles', 'Europe/Berlin', 'Asia/Kolkata', 'Australia/Lord_Howe', 'UTC'),
        (some, clock) => {
          const days = some
            .map(({ date, name, ranges }) => ({ date, name, ranges, holiday: ranges.length === 0 }))
            .sort((one, other) => (one.date < other.date ? -1 : 1));
          expect(readCalendar(writeCalendar('Hours', clock, days), clock, today)).toEqual({
            days,
            faults: days.length === 0 ? ['There is no event in this calendar.'] : [],
          });
        },
      ),
      { numRuns: 200 },
    );
  });

  test('an end that the clock skips is kept as it was written', () => {
    const days: CalendarDay[] = [{ date: '2027-10-02', name: 'Late', holiday: false, ranges: [[135, 120]] }];
    const clock = 'Australia/Lord_Howe';
    expect(readCalendar(writeCalendar('Hours', clock, days), clock, today).days).toEqual(days);
  });

  test('another program that knows no zone by its name reads the same instants from the file', () => {
    const days = ['2026-12-24', '2027-07-01'].map((date) => ({
      date,
      name: 'Short',
      holiday: false,
      ranges: [[540, 600] as [number, number]],
    }));
    const text = writeCalendar('Hours', zone, days);
    const events = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent');
    const instants = events.map(
      (each) => (each.getFirstPropertyValue('dtstart') as ICAL.Time).toUnixTime() * 1_000,
    );
    expect(instants.map((at) => new Date(at).toISOString())).toEqual([
      '2026-12-24T17:00:00.000Z',
      '2027-07-01T16:00:00.000Z',
    ]);
    expect(text).toContain('BEGIN:VTIMEZONE');
  });
});

import { describe, expect, test } from 'vitest';
import { merged, readCalendar, writeCalendar } from './calendar.ts';

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
      'zone Foo/Bar is unknown',
    ],
    [event('SUMMARY:Call', 'DTSTART:20261201T090000Z', 'DTEND:20261201T100000Z'), 'has times in UTC'],
    [
      event('SUMMARY:Weekly', 'DTSTART;VALUE=DATE:20261201', 'RRULE:FREQ=WEEKLY'),
      'repeats in a way that is not read yet',
    ],
    [event('SUMMARY:Winter', 'DTSTART;VALUE=DATE:20261201', 'DTEND;VALUE=DATE:20270201'), 'is 62 days long'],
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

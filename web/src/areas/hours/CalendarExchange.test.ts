// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from 'vitest';
import { readCalendar } from '@night-bell/core/hours/calendar';
import { type OpenPage, openPage } from '../../page.testing.ts';
import CalendarExchange from './CalendarExchange.vue';

// There are no threads here: the same is read at once.
const beside = vi.hoisted(() => ({ readBeside: vi.fn() }));
vi.mock('./calendar-reading.ts', () => beside);

let page: OpenPage;
afterEach(() => page.close());

const christmas = { date: '2026-12-25', name: 'Christmas', holiday: true, ranges: [] };
const calendar = [
  ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:x', 'BEGIN:VEVENT', 'UID:1', 'DTSTAMP:20260101T000000Z'],
  ...[
    'SUMMARY:Thanksgiving',
    'DTSTART;VALUE=DATE:20251127',
    'RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH;COUNT=3',
  ],
  ...['END:VEVENT', 'END:VCALENDAR'],
].join('\r\n');
async function bring(text: string, days: object[] = [christmas]): Promise<void> {
  beside.readBeside.mockImplementation((...asked: [string, string, string]) =>
    Promise.resolve(readCalendar(...asked)),
  );
  page = await openPage(
    CalendarExchange,
    {},
    { props: { name: 'Terminal', zone: 'America/Los_Angeles', days, today: '2026-11-28', readonly: false } },
  );
  const input = page.shown.find('input[type=file]');
  const file = new File([text], 'holidays.ics', { type: 'text/calendar' });
  Object.defineProperty(input.element, 'files', { value: [file] });
  await input.trigger('change');
}
const changes = () =>
  page.shown.findComponent(CalendarExchange).emitted<[{ date: string }[]]>('change') ?? [];

test('what was read is put among the days there are, and told before it is saved', async () => {
  await bring(calendar);
  await expect.poll(() => page.text()).toContain('holidays.ics: 1 added, 0 changed, 0 were there already.');
  expect(changes()[0]![0].map(({ date }) => date)).toEqual(['2026-12-25', '2027-11-25']);
});

test('a file that is no calendar changes nothing, and says what to do', async () => {
  await bring('Dear all');
  await expect.poll(() => page.text()).toContain('Export it as iCalendar (.ics) and bring it again.');
  expect(changes()).toEqual([]);
});

test('where it cannot be read at all that is said', async () => {
  await bring(calendar);
  beside.readBeside.mockRejectedValue(new Error('no thread'));
  await page.shown.find('input[type=file]').trigger('change');
  await expect.poll(() => page.text()).toContain('holidays.ics could not be read. Try again.');
});

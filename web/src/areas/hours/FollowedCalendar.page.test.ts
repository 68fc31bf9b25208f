// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { CalendarView } from '@night-bell/core/contracts/calendars';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import FollowedCalendar from './FollowedCalendar.vue';

let page: OpenPage;
afterEach(() => page.close());

const path = '/api/opening-hours/h/calendar';
const calendar = (more: Partial<CalendarView> = {}): CalendarView => ({
  ...{ address: 'https://example.com/a.ics', readAt: Date.UTC(2026, 10, 30), fault: null, leftOut: [] },
  changes: [
    { date: '2026-12-24', name: 'Christmas Eve', before: null, after: [[540, 720]] },
    { date: '2026-12-25', name: 'Christmas', before: [[540, 1_020]], after: [] },
  ],
  ...more,
});
const open = async (answers: Answers, props: object = {}) => {
  page = await openPage(FollowedCalendar, answers, {
    props: { hoursId: 'h', readonly: false, changed: false, ...props },
  });
};

test('an address is followed, and what its calendar says is shown before it holds', async () => {
  await open({ [`GET ${path}`]: null, [`PUT ${path}`]: calendar() });
  await page.press('Follow a calendar by its address');
  await page.fill('Address of the calendar', 'https://example.com/a.ics');
  await page.shown.find('form').trigger('submit');
  await page.settled();
  expect(page.sent[0]!.body).toEqual({ address: 'https://example.com/a.ics' });
  expect(page.text()).toContain('2026-12-24 Christmas Eve: 09:00 to 12:00 new');
  expect(page.text()).toContain('2026-12-25 Christmas: closed was 09:00 to 17:00');
});

test('what cannot be read is refused at the place', async () => {
  const refused = new Refusal(422, {
    ...{ code: 'invalidInput', detail: 'Not taken.' },
    errors: [{ path: '/address', detail: 'It answered 404. Is that the address of the calendar itself?' }],
  });
  await open({ [`GET ${path}`]: null, [`PUT ${path}`]: refused });
  await page.press('Follow a calendar by its address');
  await page.shown.find('form').trigger('submit');
  await page.settled();
  expect(page.shown.find('[role=alert]').text()).not.toBe('');
});

test('changes are taken over as they were shown', async () => {
  await open({ [`GET ${path}`]: calendar(), [`POST ${path}/take`]: calendar({ changes: [] }) });
  await page.press('Take them over');
  expect(page.sent[0]!.body).toEqual({ changes: calendar().changes });
  expect(page.text()).toContain('It says nothing that is not here.');
});

test('a fault of the last reading stands beside what was said before; who may only look changes nothing', async () => {
  await open({ [`GET ${path}`]: calendar({ fault: 'It did not answer.' }) }, { readonly: true });
  expect(page.text()).toContain('It did not answer. What it said before stays.');
  expect(page.shown.findAll('button')).toHaveLength(0);
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { HoursDraft } from '@night-bell/core/contracts/opening-hours';
import { show } from '../../testing.ts';
import UnusualDays from './UnusualDays.vue';

type Day = HoursDraft['days'][number];
const christmas: Day = { date: '2026-12-25', name: 'Christmas Day', holiday: true, ranges: [] };
const past: Day = { ...christmas, date: '2026-01-01', name: 'New Year' };
const list = (days: Day[] = [past, christmas]) =>
  show(UnusualDays, { days, today: '2026-11-28', readonly: false });
const changes = (shown: ReturnType<typeof list>) => (shown.emitted('change') ?? []) as [Day[]][];
const press = (shown: ReturnType<typeof list>, words: string) =>
  shown
    .findAll('button')
    .find((each) => each.text() === words)!
    .trigger('click');
afterEach(() => (document.body.innerHTML = ''));

test('days to come are shown, those that are over on demand', async () => {
  const shown = list();
  expect(shown.findAll('tbody tr')).toHaveLength(1);
  await shown.find('.link').trigger('click');
  expect(shown.findAll('tbody tr')).toHaveLength(2);
});

test('hours are typed as people write them; what cannot be read is said, and nothing is lost', async () => {
  const shown = list();
  const hours = shown.find<HTMLInputElement>('[aria-label="Hours of Christmas Day"]');
  await hours.setValue('9-12, 14:00 to 16:30');
  expect(changes(shown).at(-1)![0][1]!.ranges).toEqual([
    [540, 720],
    [840, 990],
  ]);
  await hours.setValue('in the morning');
  expect(shown.text()).toContain('“in the morning” cannot be read');
  expect(changes(shown)).toHaveLength(1);
});

test('a day is added on the first that is free; a date that is there already is refused', async () => {
  const shown = list([{ ...christmas, date: '2026-11-29', name: 'Stocktaking' }, christmas]);
  await press(shown, 'Add day');
  expect(changes(shown)[0]![0].at(-1)!.date).toBe('2026-11-30');
  const date = shown.find<HTMLInputElement>('[aria-label="Date of Christmas Day"]');
  await date.setValue('29.11.2026');
  await date.trigger('change');
  expect(shown.text()).toContain('is there already');
  expect(changes(shown)).toHaveLength(1);
});

test('several days are named once and added together; those that are there stay as they are', async () => {
  const shown = list();
  await press(shown, 'Add several');
  await shown.get('[aria-label="What these days are called"]').setValue('Winter lay-up');
  const days = shown.get<HTMLInputElement>('[aria-label="Days to add"]');
  await days.setValue('1 Dec to 30 March');
  expect(shown.get('[role="alert"]').text()).toBe('At most 62 days at once.');
  expect(changes(shown)).toEqual([]);
  await days.setValue('24 Dec to 27 Dec');
  const added = changes(shown)[0]![0].slice(2);
  expect(added.map(({ date, name }) => `${date} ${name}`)).toEqual([
    '2026-12-24 Winter lay-up',
    '2026-12-26 Winter lay-up',
    '2026-12-27 Winter lay-up',
  ]);
  expect(changes(shown)[0]![0][1]).toEqual(christmas);
});

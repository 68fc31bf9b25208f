// @vitest-environment happy-dom
import { afterEach, describe, expect, test } from 'vitest';
import { computed, nextTick, ref } from 'vue';
import type { HoursDraft } from '@night-bell/core/contracts/opening-hours';
import type { Week } from '@night-bell/core/hours/week';
import { show } from '../../testing.ts';
import { useOneWeek } from './one-week.ts';
import WeekDrawing from './WeekDrawing.vue';
import WhichWeek from './WhichWeek.vue';

const nine: [number, number][] = [[540, 1_020]];
const set = (): HoursDraft => ({
  ...{ name: 'Office', zone: 'America/St_Johns', weekly: [nine, nine, nine, nine, nine, [], []] },
  days: [{ date: '2026-12-25', name: 'Christmas Day', holiday: true, ranges: [] }],
});
const started = () => {
  const draft = ref<HoursDraft | null>(set());
  return {
    draft,
    ...useOneWeek(
      draft,
      computed(() => '2026-11-28'),
    ),
  };
};
afterEach(() => (document.body.innerHTML = ''));

describe('the week that is drawn', () => {
  test('is every week first, and changes the pattern', () => {
    const { draft, week, notes, setWeek } = started();
    expect(notes.value).toBeNull();
    setWeek(week.value.map((ranges, day) => (day === 5 ? nine : ranges)));
    expect(draft.value!.weekly[5]).toEqual(nine);
    expect(draft.value!.days).toHaveLength(1);
  });

  test('is the one of today next, and others from there; a change of it is of its day alone', () => {
    const { draft, week, dates, notes, go, show: showDay, setWeek, everyWeek } = started();
    go(1);
    expect(dates.value![0]).toBe('2026-11-23');
    go(1);
    expect(dates.value![0]).toBe('2026-11-30');
    showDay('2026-12-24');
    expect(week.value[4]).toEqual([]);
    expect(notes.value!.map(({ label, unusual }) => `${label} ${unusual}`.trim())).toEqual([
      ...['Mon 21', 'Tue 22', 'Wed 23', 'Thu 24', 'Fri 25 Christmas Day', 'Sat 26', 'Sun 27'],
    ]);
    setWeek(week.value.map((ranges, day) => (day === 3 ? [[540, 720]] : ranges)) as Week);
    expect(draft.value!.weekly).toEqual(set().weekly);
    expect(draft.value!.days.at(-1)).toEqual({
      ...{ date: '2026-12-24', name: '', holiday: false, ranges: [[540, 720]] },
    });
    expect(notes.value![3]!.unusual).toBe('changed');
    everyWeek();
    expect(week.value[3]).toEqual(nine);
  });

  test('says how long a day is on which the clocks change', () => {
    const { notes, show: showDay } = started();
    showDay('2027-03-14');
    expect(notes.value!.map(({ clockHours }) => clockHours)).toEqual([
      null,
      null,
      null,
      null,
      null,
      null,
      23,
    ]);
    showDay('2027-11-07');
    expect(notes.value![6]!.clockHours).toBe(25);
  });
});

test('the drawing names the days of its week', async () => {
  const page = show(WeekDrawing, { week: set().weekly, readonly: true, chosen: null });
  expect(page.findAll('.name').map((each) => each.text())[0]).toBe('Mon');
  const notes = Array.from({ length: 7 }, (_, day) => ({
    ...{ label: `Day ${day}`, unusual: day === 2 ? 'Founders Day' : '', clockHours: day === 6 ? 25 : null },
  }));
  await page.setProps({ notes } as never);
  await nextTick();
  expect(page.findAll('.name').map((each) => each.text())).toEqual([
    ...['Day 0', 'Day 1', 'Day 2', 'Day 3', 'Day 4', 'Day 5', 'Day 625 h'],
  ]);
  expect(page.get('.name.unusual').attributes('title')).toBe('Founders Day');
});

test('which week is chosen by name and stepped through', async () => {
  const page = show(WhichWeek, { dates: null });
  expect(page.text()).toContain('One week');
  await page.setProps({ dates: ['2026-12-21', '', '', '', '', '', '2026-12-27'] } as never);
  expect(page.text()).toContain('Week of 21 Dec to 27 Dec');
  await page.get('[aria-label="Earlier week"]').trigger('click');
  await page.get('[aria-label="Later week"]').trigger('click');
  expect(page.emitted('go')).toEqual([[-1], [1]]);
  await page.get('button').trigger('click');
  expect(page.emitted('every')).toHaveLength(1);
});

import { computed, ref, type Ref } from 'vue';
import type { HoursDraft } from '@night-bell/core/contracts/opening-hours';
import { dateOfDay, dayOfDate } from '@night-bell/core/hours/civil';
import { mondayOf, weekAt, withWeekAt } from '@night-bell/core/hours/one-week';
import type { Week } from '@night-bell/core/hours/week';
import { instantOf } from '../../kit/time.ts';
import { dayNames } from './words.ts';

/** What is said of one day of a drawn week, beside its ranges. */
export interface DayNote {
  label: string;
  /** Why it is not as its weekday; empty where it is. */
  unusual: string;
  /** Hours the day has where the clocks change: 23 or 25; null for 24. */
  clockHours: number | null;
}

const hourMs = 3_600_000;

/** What the drawing shows and changes: every week, or one week of which each change is an unusual day. */
export function useOneWeek(draft: Ref<HoursDraft | null>, today: Ref<string>) {
  /** Days since 1970; null for every week. */
  const monday = ref<number | null>(null);
  const week = computed<Week>(() => {
    const { weekly = [], days = [] } = draft.value ?? {};
    return monday.value === null ? weekly : weekAt(weekly, days as never, monday.value);
  });
  const dates = computed(() =>
    monday.value === null ? null : dayNames.map((_, weekday) => dateOfDay(monday.value! + weekday)),
  );

  function setWeek(drawn: Week): void {
    const set = draft.value!;
    if (monday.value === null) set.weekly = drawn as HoursDraft['weekly'];
    else set.days = withWeekAt(set.weekly, set.days, monday.value, drawn) as HoursDraft['days'];
  }

  const notes = computed<DayNote[] | null>(() => {
    const set = draft.value;
    if (dates.value === null || set === null) return null;
    const byDate = new Map(set.days.map((day) => [day.date, day]));
    return dates.value.map((date, weekday) => {
      const special = byDate.get(date);
      const midnight = (of: string) => instantOf(`${of}T00:00`, set.zone);
      const hours = (midnight(dateOfDay(dayOfDate(date) + 1)) - midnight(date)) / hourMs;
      return {
        label: `${dayNames[weekday]} ${Number(date.slice(8))}`,
        unusual: special === undefined ? '' : special.name || 'changed',
        clockHours: hours === 24 ? null : hours,
      };
    });
  });

  const show = (date: string) => (monday.value = mondayOf(dayOfDate(date)));
  const everyWeek = () => (monday.value = null);
  const go = (weeks: number) => (monday.value === null ? show(today.value) : (monday.value += 7 * weeks));

  return { monday, dates, week, notes, setWeek, show, everyWeek, go };
}

<script setup lang="ts">
import { computed, ref } from 'vue';
import type { HoursDraft } from '@night-bell/core/contracts/opening-hours';
import { dateOfDay, dayOfDate } from '@night-bell/core/hours/civil';
import { rangesText, readRanges } from '@night-bell/core/hours/week';
import DayField from '../../kit/DayField.vue';
import type { Stretch } from '../../kit/days.ts';
import StretchField from '../../kit/StretchField.vue';
import { dateWords } from './zone-time.ts';
import TakeOut from '../../kit/TakeOut.vue';

type Day = HoursDraft['days'][number];

/** Days that are not as their weekday: holidays, and one-off changes. */
const props = defineProps<{ days: readonly Day[]; today: string; readonly: boolean }>();
const emit = defineEmits<{ change: [days: Day[]] }>();
const fault = ref('');
const withPast = ref(false);

const past = computed(() => props.days.filter(({ date }) => date < props.today).length);
const shown = computed(() =>
  props.days
    .filter(({ date }) => withPast.value || date >= props.today)
    .toSorted((one, other) => (one.date < other.date ? -1 : 1)),
);

function change(date: string, to: Partial<Day>): void {
  fault.value = '';
  emit(
    'change',
    props.days.map((day) => (day.date === date ? { ...day, ...to } : day)),
  );
}
function hours(date: string, text: string): void {
  const ranges = readRanges(text);
  if (ranges === null) fault.value = `“${text}” cannot be read. Write 08:00 to 14:00, or closed.`;
  else change(date, { ranges });
}
function move(date: string, to: string): void {
  if (to === '' || to === date) return;
  if (props.days.some((day) => day.date === to)) fault.value = `${dateWords(to)} is there already.`;
  else change(date, { date: to });
}

/** Longer stretches are another season: they are hours of their own. */
const mostDays = 62;

/** Tomorrow, or the first day after it that is free. */
function add(): void {
  let day = dayOfDate(props.today) + 1;
  while (props.days.some(({ date }) => date === dateOfDay(day))) day++;
  const date = dateOfDay(day);
  emit('change', [...props.days, { date, name: '', holiday: true, ranges: [] }]);
}
/** Several days alike, named once; those that are there already stay as they are. */
const several = ref(false);
const name = ref('');
const noDays: Stretch = { from: '', to: '' };
const stretch = ref(noDays);
function addSeveral(days: Stretch): void {
  stretch.value = noDays;
  if (days.from === '' || days.to === '') return;
  const [first, last] = [dayOfDate(days.from), dayOfDate(days.to)];
  fault.value = last - first >= mostDays ? `At most ${mostDays} days at once.` : '';
  if (fault.value !== '') return;
  const made = Array.from({ length: last - first + 1 }, (_, index) => dateOfDay(first + index))
    .filter((date) => !props.days.some((day) => day.date === date))
    .map((date) => ({ date, name: name.value.trim(), holiday: true, ranges: [] }));
  emit('change', [...props.days, ...made]);
  [several.value, name.value] = [false, ''];
}
const takeOut = (date: string) =>
  emit(
    'change',
    props.days.filter((day) => day.date !== date),
  );
</script>

<template>
  <section class="days">
    <h3>
      Unusual days
      <span class="second small">{{ days.length === 0 ? 'none yet' : `${shown.length} to come` }}</span>
      <button v-if="past > 0" type="button" class="link small" @click="withPast = !withPast">
        {{ withPast ? 'Hide those that are over' : `Show ${past} that are over` }}
      </button>
      <button v-if="!readonly" type="button" class="link" @click="add">Add day</button>
      <button
        v-if="!readonly"
        type="button"
        class="link"
        :aria-expanded="several"
        @click="several = !several"
      >
        Add several
      </button>
    </h3>
    <p v-if="several" class="several">
      <input
        v-model="name"
        aria-label="What these days are called"
        placeholder="What they are called"
        maxlength="80"
      />
      <span class="second">closed on</span>
      <StretchField
        :model-value="stretch"
        label="Days to add"
        :today="today"
        toward="coming"
        placeholder="24 Dec to 2 Jan"
        @update:model-value="addSeveral"
      />
    </p>
    <p v-if="fault" class="fault-text small" role="alert">{{ fault }}</p>
    <table v-if="shown.length > 0">
      <tbody>
        <tr v-for="day in shown" :key="day.date">
          <td class="date">
            <DayField
              :model-value="day.date"
              :label="`Date of ${day.name || day.date}`"
              :today="today"
              :readonly="readonly"
              @update:model-value="move(day.date, $event)"
            />
          </td>
          <td>
            <input
              :value="day.name"
              :aria-label="`What ${day.date} is called`"
              placeholder="What it is called"
              maxlength="80"
              :readonly="readonly"
              @change="change(day.date, { name: ($event.target as HTMLInputElement).value })"
            />
          </td>
          <td>
            <input
              :value="rangesText(day.ranges)"
              :aria-label="`Hours of ${day.name || day.date}`"
              class="mono"
              :readonly="readonly"
              @change="hours(day.date, ($event.target as HTMLInputElement).value)"
            />
          </td>
          <td class="kind">
            <label class="small"
              ><input
                type="checkbox"
                :checked="day.holiday"
                :disabled="readonly"
                @change="change(day.date, { holiday: ($event.target as HTMLInputElement).checked })"
              />
              holiday</label
            >
          </td>
          <td class="out">
            <TakeOut v-if="!readonly" :what="`Take ${day.date} out`" @click="takeOut(day.date)" />
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
h3 {
  display: flex;
  gap: 12px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule2);
  padding-bottom: 4px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  border-bottom: 1px solid var(--rule);
  height: 25px;
}
.several span {
  white-space: nowrap;
}
.several {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
}
.date {
  width: 150px;
}
.kind {
  width: 84px;
}
.out {
  width: 24px;
}
input:not([type='checkbox']) {
  width: 100%;
  border: 0;
  background: none;
  color: var(--ink);
  height: 24px;
}
</style>

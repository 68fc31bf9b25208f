<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { dateOfDay, dayOfDate } from '@night-bell/core/hours/civil';

/** A day, typed or picked: '24 Dec', '24.12.2026', '2026-12-24', 'tomorrow'. Shown in words, in everybody's order. */
const props = defineProps<{ label: string; today: string; readonly?: boolean; id?: string }>();
/** YYYY-MM-DD; empty for none. */
const model = defineModel<string>({ required: true });
const open = ref(false);
const text = ref('');
const faulty = ref(false);

const format = new Intl.DateTimeFormat('en-GB', {
  ...{ weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' },
});
const inWords = (date: string) =>
  date === '' ? '' : format.format(Date.parse(`${date}T12:00:00Z`)).replace(',', '');
watch(model, (date) => (text.value = inWords(date)), { immediate: true });

const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** The date somebody means; without a year the next time it comes. Null for what is none. */
function read(typed: string): string | null {
  const plain = typed.trim().toLowerCase();
  const ahead = { today: 0, tomorrow: 1 }[plain];
  if (ahead !== undefined) return dateOfDay(dayOfDate(props.today) + ahead);
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(plain);
  if (iso !== null) return dateOf(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const worded = /^(?:[a-z]{3,9}\.?,? )?(\d{1,2})(?:\. ?|[ /])(\d{1,2}|[a-z]{3,9})\.?(?:[ /]?(\d{4}))?$/.exec(
    plain,
  );
  if (worded === null) return null;
  const named = months.indexOf(worded[2]!.slice(0, 3));
  const month = named >= 0 ? named + 1 : Number(worded[2]);
  const year = Number(worded[3] ?? props.today.slice(0, 4));
  const date = dateOf(year, month, Number(worded[1]));
  if (date === null || worded[3] !== undefined || date >= props.today) return date;
  return dateOf(year + 1, month, Number(worded[1]));
}
function dateOf(year: number, month: number, day: number): string | null {
  const date = `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  return Number.isNaN(dayOfDate(date)) ? null : date;
}

function take(): void {
  if (text.value === inWords(model.value)) return;
  const date = read(text.value);
  faulty.value = date === null;
  if (date !== null) model.value = date;
}
const picked = computed({
  get: () => (model.value === '' ? null : new Date(`${model.value}T12:00:00`)),
  set: (date: Date | null) => {
    if (date === null) return;
    model.value = dateOf(date.getFullYear(), date.getMonth() + 1, date.getDate()) ?? model.value;
    open.value = false;
  },
});
</script>

<template>
  <span class="day">
    <input
      :id="id"
      v-model="text"
      :aria-label="label"
      :aria-invalid="faulty"
      :title="faulty ? 'Write a day like 24 Dec, or 2026-12-24.' : undefined"
      :class="{ faulty }"
      :readonly="readonly"
      placeholder="24 Dec"
      @change="take"
    />
    <v-menu v-if="!readonly" v-model="open" :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <button v-bind="menu" type="button" :aria-label="`Pick: ${label}`">▾</button>
      </template>
      <v-date-picker v-model="picked" :first-day-of-week="1" hide-header show-adjacent-months />
    </v-menu>
  </span>
</template>

<style scoped>
.day {
  display: inline-flex;
  width: 100%;
}
input {
  flex: 1;
  min-width: 0;
  border: 0;
  background: none;
  color: var(--ink);
  height: 24px;
}
.faulty {
  color: var(--oxide);
}
button {
  border: 0;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  width: 20px;
}
</style>

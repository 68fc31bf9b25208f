<script setup lang="ts">
import { computed, ref } from 'vue';
import { minutesADay } from '@night-bell/core/hours/opening-hours';
import { clockText, minuteOf } from '@night-bell/core/hours/ranges';
import { copied, replaced, type Week, without } from '@night-bell/core/hours/week';
import { dayNames, longDayNames } from './words.ts';

/** The chosen range in words: the way to everything the drawing does, by typing. */
const props = defineProps<{ week: Week; chosen: { day: number; index: number } | null; readonly: boolean }>();
const emit = defineEmits<{ change: [week: Week]; fault: [sentence: string] }>();
const to = ref<number[]>([]);
const range = computed(() =>
  props.chosen === null ? null : (props.week[props.chosen.day]?.[props.chosen.index] ?? null),
);
const others = computed(() =>
  dayNames.map((title, value) => ({ value, title })).filter(({ value }) => value !== props.chosen?.day),
);

function type(which: 0 | 1, text: string): void {
  const minute = minuteOf(text);
  const before = range.value;
  if (props.chosen === null || before === null) return;
  if (minute === null) return emit('fault', `${text} is no time. Write it like 17:30.`);
  const next = [...before] as [number, number];
  next[which] = which === 0 && minute === minutesADay ? 0 : minute;
  const week = replaced(props.week, props.chosen.day, props.chosen.index, next);
  if (week === null) return emit('fault', 'That would overlap other hours. Change those first.');
  emit('change', week);
}

function copy(): void {
  if (props.chosen === null) return;
  const week = copied(props.week, props.chosen.day, to.value);
  if (week === null) return emit('fault', 'On one of these days that would run into other hours.');
  emit('change', week);
  to.value = [];
}
</script>

<template>
  <p v-if="range === null || chosen === null" class="sentence second">
    {{ readonly ? 'Choose a range to read it.' : 'Drag over a day to open it, or press + on its line.' }}
  </p>
  <p v-else class="sentence">
    {{ longDayNames[chosen.day] }} opens at
    <input
      class="mono"
      aria-label="Opens at"
      :value="clockText(range[0])"
      :readonly="readonly"
      @change="type(0, ($event.target as HTMLInputElement).value)"
    />
    and closes at
    <input
      class="mono"
      aria-label="Closes at"
      :value="clockText(range[1])"
      :readonly="readonly"
      @change="type(1, ($event.target as HTMLInputElement).value)"
    />
    <template v-if="range[1] <= range[0]">on {{ longDayNames[(chosen.day + 1) % 7] }}</template>
    <template v-if="!readonly">
      <button type="button" class="link" @click="emit('change', without(week, chosen.day, chosen.index))">
        Take out
      </button>
      <span class="copy">
        <v-select
          v-model="to"
          :items="others"
          multiple
          placeholder="Copy this day to"
          aria-label="Copy this day to"
        />
        <v-btn v-if="to.length > 0" size="small" @click="copy">Copy</v-btn>
      </span>
    </template>
  </p>
</template>

<style scoped>
.sentence {
  display: flex;
  align-items: center;
  gap: 8px;
  font-size: 15px;
  line-height: 30px;
  flex-wrap: wrap;
}
input {
  width: 56px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 26px;
}
.copy {
  display: flex;
  gap: 8px;
  width: 190px;
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue';
import { dateOfDay } from '@night-bell/core/hours/civil';
import { openMsOn, type OpeningHours } from '@night-bell/core/hours/opening-hours';
import { localDay } from '@night-bell/core/hours/zone-clock';
import { dateWords } from './zone-time.ts';

/**
 * A year ahead, a stroke a day as high as it is open; unusual days stand out, with their square below. A day is chosen by a
 * press, or by the arrow keys (a day, with Shift a week).
 */
const props = defineProps<{ hours: OpeningHours; now: number }>();
const emit = defineEmits<{ choose: [date: string] }>();
const chosen = ref(0);
const width = 736;
function choose(at: number): void {
  chosen.value = Math.max(0, Math.min(days.value.length - 1, at));
  emit('choose', days.value[chosen.value]!.date);
}
function press(event: MouseEvent): void {
  const { left, width: drawn } = (event.currentTarget as Element).getBoundingClientRect();
  choose(Math.floor(((event.clientX - left) * width) / (drawn || width) / 2));
}
function key(event: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -1, ArrowUp: 1 }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  choose(chosen.value + by * (event.shiftKey ? 7 : 1));
}
const days = computed(() => {
  const first = localDay(props.hours.clock, props.now);
  return Array.from({ length: 365 }, (_, at) => {
    const date = dateOfDay(first + at);
    const special = props.hours.days[date];
    return { at, date, open: openMsOn(props.hours, first + at) / 3_600_000, special };
  });
});
const months = computed(() => days.value.filter(({ date }) => date.endsWith('-01')));
/** Those close together are spread, so that each can be seen. */
const special = computed(() => {
  let last = -Infinity;
  return days.value
    .filter((day) => day.special !== undefined)
    .map((day) => {
      last = Math.max(day.at * 2 - 3, last + 10);
      return { ...day, left: last };
    });
});
const kind = (ranges: number, open: number, usual: number) =>
  ranges === 0 ? 'closed' : open < usual ? 'shorter' : 'longer';
const usual = computed(() => {
  const sorted = days.value.map(({ open }) => open).sort((one, other) => one - other);
  return sorted[sorted.length >> 1] ?? 0;
});
</script>

<template>
  <svg
    :width="width"
    height="78"
    class="year"
    role="slider"
    tabindex="0"
    aria-label="A day of the year ahead, to show its week"
    aria-valuemin="0"
    aria-valuemax="364"
    :aria-valuenow="chosen"
    :aria-valuetext="dateWords(days[chosen]!.date)"
    :viewBox="`0 0 ${width} 78`"
    @click="press"
    @keydown="key"
  >
    <rect
      v-for="day in days"
      :key="day.at"
      :x="day.at * 2"
      :y="40 - day.open * 1.6"
      width="1.4"
      :height="day.open * 1.6"
      :class="{ special: day.special }"
    />
    <path d="M0 40.500h730" class="axis" />
    <g v-for="day in special" :key="`mark ${day.at}`" :transform="`translate(${day.left} 46)`">
      <title>{{ dateWords(day.date) }}: {{ day.special!.name }}</title>
      <rect width="7" height="7" class="box" />
      <path v-if="kind(day.special!.ranges.length, day.open, usual) === 'closed'" d="M0 7 7 0" class="box" />
      <rect
        v-else
        :y="kind(day.special!.ranges.length, day.open, usual) === 'shorter' ? 3.5 : 0"
        width="7"
        :height="kind(day.special!.ranges.length, day.open, usual) === 'shorter' ? 3.5 : 7"
      />
    </g>
    <text v-for="month in months" :key="`month ${month.at}`" :x="month.at * 2" y="70">
      {{ dateWords(month.date).split(' ')[2] }}
    </text>
  </svg>
</template>

<style scoped>
.year {
  display: block;
  max-width: 100%;
  cursor: pointer;
}
rect {
  fill: color-mix(in srgb, var(--teal) 70%, var(--sheet));
}
.special,
g rect {
  fill: var(--ink);
}
.axis {
  stroke: var(--rule2);
}
.box {
  fill: none !important;
  stroke: var(--ink);
}
text {
  font: 11px var(--sans);
  fill: var(--ink2);
}
</style>

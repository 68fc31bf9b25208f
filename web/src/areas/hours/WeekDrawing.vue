<script setup lang="ts">
import { ref } from 'vue';
import { minutesADay, type Range } from '@night-bell/core/hours/opening-hours';
import { clockText } from '@night-bell/core/hours/ranges';
import { moved, room, type Week, without, withRange } from '@night-bell/core/hours/week';
import type { DayNote } from './one-week.ts';
import { dayNames, longDayNames } from './words.ts';

/**
 * A week drawn to scale. An end is dragged, or moved by the arrow keys: a quarter of an hour, with Shift an hour, with Alt
 * a minute. A drag over an empty stretch makes a range; Delete takes one out, N adds nine to five.
 */
const props = defineProps<{
  week: Week;
  readonly: boolean;
  /** Of the days of one week; null for every week. */
  notes?: readonly DayNote[] | null;
}>();
const emit = defineEmits<{ change: [week: Week]; choose: [day: number, index: number] }>();
const chosen = defineModel<{ day: number; index: number } | null>('chosen', { required: true });

const hourWidth = 25;
const x = (minute: number) => (minute / 60) * hourWidth;
const minuteAt = (pixels: number) => Math.round(((pixels / hourWidth) * 60) / 15) * 15;
type End = 'from' | 'to' | 'both';

const length = (range: Range) =>
  range[1] > range[0] ? range[1] - range[0] : range[1] + minutesADay - range[0];
/** Minutes of it that are drawn on its own day. */
const shown = (range: Range) => Math.min(length(range), minutesADay - range[0]);
const runsOver = ([from, to]: Range) => to <= from;
/** What runs over from the day before. */
const spill = (day: number) => props.week[(day + 6) % 7]!.filter(runsOver);
const hours = (day: number) => {
  const total = props.week[day]!.reduce((sum, range) => sum + length(range), 0);
  return total % 60 === 0 ? String(total / 60) : (total / 60).toFixed(1);
};

/** A change keeps hold of its range, though it may have moved in the day's order. */
function change(day: number, index: number, what: End, by: number): void {
  const next = moved(props.week, day, index, what, by);
  if (next !== props.week) emit('change', next);
}

function onKey(event: KeyboardEvent, day: number, index: number, what: End): void {
  if (props.readonly) return;
  const size = event.altKey ? 1 : event.shiftKey ? 60 : 15;
  if (event.key === 'ArrowRight') change(day, index, what, size);
  else if (event.key === 'ArrowLeft') change(day, index, what, -size);
  else if (event.key === 'Delete' || event.key === 'Backspace') {
    emit('change', without(props.week, day, index));
    chosen.value = null;
  } else return;
  event.preventDefault();
  event.stopPropagation();
}

const drag = ref<{ day: number; index: number; what: End; x: number; week: Week } | null>(null);
function grab(event: PointerEvent, day: number, index: number, what: End): void {
  chosen.value = { day, index };
  if (props.readonly) return;
  event.stopPropagation();
  drag.value = { day, index, what, x: event.clientX, week: props.week };
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function pull(event: PointerEvent): void {
  const held = drag.value;
  if (held === null) return;
  const by = event.altKey
    ? Math.round(((event.clientX - held.x) / hourWidth) * 60)
    : minuteAt(event.clientX - held.x);
  const next = moved(held.week, held.day, held.index, held.what, by);
  emit('change', next);
}
const drop = () => (drag.value = null);

function begin(event: PointerEvent, day: number): void {
  if (props.readonly || event.target !== event.currentTarget) return;
  const minute = Math.max(0, Math.min(1_425, minuteAt(event.offsetX)));
  const range = room(props.week, day, minute, 15);
  if (range === null) return;
  const next = withRange(props.week, day, range);
  if (next === null) return;
  const index = next[day]!.findIndex(([from]) => from === range[0]);
  emit('change', next);
  chosen.value = { day, index };
  drag.value = { day, index, what: 'to', x: event.clientX, week: next };
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}

/** Nine to five, or what of it is free. */
function add(day: number): void {
  const start = [540, 0, 1_080].find((minute) => room(props.week, day, minute, 480) !== null);
  const range = start === undefined ? null : room(props.week, day, start, 480);
  const next = range === null ? null : withRange(props.week, day, range);
  if (next === null || range === null) return;
  emit('change', next);
  chosen.value = { day, index: next[day]!.findIndex(([from]) => from === range[0]) };
}

const ends = (day: number, [from, to]: Range) =>
  `${longDayNames[day]} opens, ${clockText(from)}; closes ${clockText(to)}${to <= from ? ' on ' + longDayNames[(day + 1) % 7] : ''}`;
const isChosen = (day: number, index: number) => chosen.value?.day === day && chosen.value.index === index;
</script>

<template>
  <div class="week" @pointermove="pull" @pointerup="drop" @pointercancel="drop">
    <div class="scale mono" aria-hidden="true">
      <span
        v-for="hour in [0, 3, 6, 9, 12, 15, 18, 21, 24]"
        :key="hour"
        :style="{ left: `${64 + hour * hourWidth}px` }"
        >{{ String(hour).padStart(2, '0') }}</span
      >
      <span class="total">hours</span>
    </div>
    <div v-for="(ranges, day) in week" :key="day" class="day">
      <span
        class="name"
        :class="{ unusual: notes?.[day]?.unusual }"
        :title="notes?.[day]?.unusual || undefined"
        >{{ notes?.[day]?.label ?? dayNames[day]
        }}<span v-if="notes?.[day]?.clockHours" class="mono clock" title="The clocks change on this day"
          >{{ notes[day]!.clockHours }} h</span
        ></span
      >
      <div class="lane" :style="{ width: `${24 * hourWidth}px` }" @pointerdown="begin($event, day)">
        <span
          v-for="range in spill(day)"
          :key="`spill ${range[0]}`"
          class="spill"
          :style="{ width: `${x(range[1])}px` }"
          aria-hidden="true"
        />
        <div
          v-for="(range, index) in ranges"
          :key="index"
          class="range"
          :class="{ over: runsOver(range), chosen: isChosen(day, index) }"
          :style="{
            left: `${x(range[0])}px`,
            width: `${x(shown(range))}px`,
          }"
          role="group"
          :aria-label="ends(day, range)"
          tabindex="0"
          @focus="chosen = { day, index }"
          @keydown="onKey($event, day, index, 'both')"
          @pointerdown="grab($event, day, index, 'both')"
        >
          <span
            class="post from"
            role="slider"
            tabindex="0"
            :aria-label="`${longDayNames[day]} opens`"
            :aria-valuenow="range[0]"
            aria-valuemin="0"
            aria-valuemax="1439"
            :aria-valuetext="clockText(range[0])"
            @focus="chosen = { day, index }"
            @keydown="onKey($event, day, index, 'from')"
            @pointerdown="grab($event, day, index, 'from')"
          />
          <span v-if="shown(range) >= (runsOver(range) ? 260 : 150)" class="mono times"
            ><span>{{ clockText(range[0]) }}</span
            ><span>{{
              runsOver(range) ? `to ${dayNames[(day + 1) % 7]} ${clockText(range[1])}` : clockText(range[1])
            }}</span></span
          >
          <span
            class="post to"
            role="slider"
            tabindex="0"
            :aria-label="`${longDayNames[day]} closes`"
            :aria-valuenow="range[1]"
            aria-valuemin="0"
            aria-valuemax="1440"
            :aria-valuetext="`${clockText(range[1])}${runsOver(range) ? ` ${longDayNames[(day + 1) % 7]}` : ''}`"
            @focus="chosen = { day, index }"
            @keydown="onKey($event, day, index, 'to')"
            @pointerdown="grab($event, day, index, 'to')"
          />
        </div>
      </div>
      <span class="total mono">{{ hours(day) }}</span>
      <button
        v-if="!readonly"
        type="button"
        class="add"
        :aria-label="`Add a range on ${longDayNames[day]}`"
        @click="add(day)"
      >
        +
      </button>
    </div>
  </div>
</template>

<style scoped>
.week {
  user-select: none;
  position: relative;
  min-width: 740px;
}
.scale {
  position: relative;
  height: 22px;
  border-bottom: 1px solid var(--rule2);
  font-size: 12px;
  color: var(--ink2);
}
.scale span {
  position: absolute;
  transform: translateX(-50%);
}
.scale .total {
  left: auto;
  right: 28px;
  transform: none;
  padding: 0;
}
.day {
  height: 32px;
  display: flex;
  align-items: center;
  border-bottom: 1px solid var(--rule);
}
.name {
  width: 64px;
}
.unusual {
  font-weight: 600;
}
.clock {
  font-size: 12px;
  color: var(--plum);
  margin-left: 2px;
}
.lane {
  position: relative;
  height: 100%;
  background: linear-gradient(90deg, var(--rule) 1px, transparent 1px) 0 0 / 150px 100%;
  cursor: crosshair;
  touch-action: none;
}
.range,
.spill {
  position: absolute;
  top: 6px;
  height: 20px;
  background: color-mix(in srgb, var(--teal) 17%, var(--sheet));
}
.spill {
  left: 0;
  clip-path: polygon(0 0, 100% 0, 100% 100%, 0 100%, 6px 50%);
  pointer-events: none;
}
.range {
  cursor: grab;
  touch-action: none;
}
.range.over {
  clip-path: polygon(0 0, calc(100% - 6px) 0, 100% 50%, calc(100% - 6px) 100%, 0 100%);
}
.range.chosen {
  background: color-mix(in srgb, var(--teal) 32%, var(--sheet));
}
.post {
  position: absolute;
  top: -2px;
  bottom: -2px;
  width: 12px;
  cursor: ew-resize;
  touch-action: none;
}
.post::after {
  content: '';
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--teal);
}
.from {
  left: -6px;
}
.from::after {
  left: 6px;
}
.to {
  right: -6px;
}
.to::after {
  right: 6px;
}
.post:focus-visible {
  outline: 2px solid var(--brass);
  outline-offset: -2px;
}
.times {
  display: flex;
  justify-content: space-between;
  font-size: 12px;
  line-height: 20px;
  padding: 0 8px;
  pointer-events: none;
  white-space: nowrap;
  overflow: hidden;
}
.total {
  flex: 1;
  text-align: right;
  padding-right: 8px;
}
.add {
  border: 0;
  background: none;
  color: var(--brass);
  cursor: pointer;
  width: 20px;
  font-size: 16px;
}
</style>

<script setup lang="ts">
import { computed, useId } from 'vue';
import { span } from '@night-bell/core/story/span';
import RopeDefs from './RopeDefs.vue';
import RopeMark from './RopeMark.vue';
import { useHearing } from './hearing.ts';
import type { RopeStep } from '@night-bell/core/story/step';

/** The rope hanging: slack at the left, time, decision over reason. The list is the content, the drawing its picture. */
const props = defineProps<{ steps: RopeStep[]; whatIf: boolean; chosen: number | null; ground?: string }>();
const emit = defineEmits<{ choose: [decision: number] }>();
const id = useId();
const { heard, toggle } = useHearing();

const stepHeight = 48;
/** Room for slack only where some hangs. */
const ropeX = computed(() => (props.steps.some((step) => step.slack.length > 0) ? 206 : 40));
const textLeft = computed(() => `${ropeX.value + 18}px`);
const start = computed(() => props.steps[0]?.at ?? 0);

const rows = computed(() => {
  let y = 18;
  return props.steps.map((step) => {
    const length =
      step.mark === 'sally'
        ? Math.min(110, 34 + step.ms / 6_000)
        : step.mark === 'coil'
          ? Math.min(56, 18 + step.ms / 2_500)
          : 0;
    const wraps = (step.title.length > 34 ? 18 : 0) + (step.reason.length > 42 ? 18 : 0);
    const height = Math.max(stepHeight + wraps, length + 22, step.slack.length * 18 + 20);
    const row = { step, y: y + (length > 0 ? length / 2 - 6 : 0), top: y - 10, length, height };
    y += height;
    return row;
  });
});
const height = computed(() => {
  const last = rows.value.at(-1);
  return last === undefined ? 0 : last.top + last.height;
});
</script>

<template>
  <div class="story">
    <svg :width="ropeX + 18" :height="height" aria-hidden="true">
      <RopeDefs :id="id" :what-if="whatIf" />
      <rect
        v-if="rows.length > 1"
        :x="ropeX - 2.5"
        :y="rows[0]!.y"
        width="5"
        :height="rows.at(-1)!.y - rows[0]!.y"
        :fill="`url(#${id}-rope)`"
      />
      <g v-for="(row, index) in rows" :key="index">
        <g v-for="(word, n) in row.step.slack" :key="word">
          <path
            :d="`M${ropeX - 8} ${row.y} C ${ropeX - 18} ${row.y + 2}, ${ropeX - 14} ${row.y + 10 + n * 18}, ${ropeX - 26} ${row.y + 10 + n * 18}`"
            fill="none"
            stroke="var(--rope-d)"
            stroke-width="1.4"
            stroke-dasharray="3 2.4"
          />
          <circle
            :cx="ropeX - 28"
            :cy="row.y + 10 + n * 18"
            r="2"
            fill="none"
            stroke="var(--rope-d)"
            stroke-width="1.2"
          />
        </g>
        <g :transform="`translate(${ropeX} ${row.y})`">
          <RopeMark
            :id="id"
            :step="row.step"
            :what-if="whatIf"
            vertical
            :length="row.length"
            :ground="ground ?? 'var(--page)'"
          />
        </g>
      </g>
    </svg>
    <ol>
      <li
        v-for="(row, index) in rows"
        :key="index"
        :style="{ top: `${row.top}px`, height: `${row.height}px` }"
      >
        <ul v-if="row.step.slack.length > 0" class="slack small second">
          <li v-for="word in row.step.slack" :key="word" :title="word">{{ word }}</li>
        </ul>
        <component
          :is="row.step.decision === null ? 'div' : 'button'"
          class="step"
          :class="{ chosen: row.step.decision !== null && row.step.decision === chosen }"
          :type="row.step.decision === null ? undefined : 'button'"
          :tabindex="row.step.decision === null ? 0 : undefined"
          @click="row.step.decision !== null && emit('choose', row.step.decision)"
        >
          <span class="mono time">{{ span(row.step.at - start) }}</span>
          <span class="words">
            <b>{{ row.step.title }}</b>
            <span class="second small">{{ row.step.reason }}</span>
          </span>
        </component>
        <button
          v-if="row.step.sounds.length > 0"
          class="link small hear"
          type="button"
          :aria-label="`${heard === index ? 'Stop' : 'Listen to'} ${row.step.title}`"
          @click="toggle(index, row.step.sounds)"
        >
          {{ heard === index ? 'Stop' : 'Listen' }}
        </button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.story {
  position: relative;
}
ol > li {
  position: absolute;
  left: 0;
  right: 0;
}
.step {
  position: absolute;
  left: v-bind(textLeft);
  right: 0;
  display: grid;
  grid-template-columns: 44px 1fr;
  gap: 8px;
  text-align: left;
  border: 0;
  background: none;
  color: inherit;
  padding: 1px 4px;
  font-size: 13px;
  line-height: 18px;
}
button.step {
  cursor: pointer;
}
button.step:hover,
.step.chosen {
  background: var(--sel);
}
.hear {
  position: absolute;
  right: 4px;
  top: 1px;
}
.time {
  color: var(--teal);
  text-align: right;
}
.words {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.slack {
  position: absolute;
  left: 0;
  width: 172px;
  padding-left: 12px;
  top: 11px;
  text-align: right;
}
.slack li {
  height: 18px;
  line-height: 18px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
</style>

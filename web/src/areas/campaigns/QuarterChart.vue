<script setup lang="ts">
import { computed } from 'vue';
import type { CampaignProgress } from '../../api/client.ts';
import { useClock } from '../../kit/time.ts';

/** People who answered, upwards; below the line the share abandoned, against its limit. */
const props = defineProps<{ quarters: CampaignProgress['quarters']; limit: number; now: number }>();
const { clock } = useClock();

const width = 716;
const up = 130;
const down = 46;
const left = 34;
const quarterMs = 900_000;
const shown = 48;

const last = computed(() => Math.floor(props.now / quarterMs) * quarterMs);
const bars = computed(() => {
  const byStart = new Map(props.quarters.map((quarter) => [Date.parse(quarter.at), quarter]));
  const step = (width - left) / shown;
  return Array.from({ length: shown }, (_, index) => {
    const at = last.value - (shown - 1 - index) * quarterMs;
    const quarter = byStart.get(at);
    const answered = quarter?.answered ?? 0;
    const share = answered === 0 ? 0 : (quarter!.abandoned / answered) * 100;
    return { at, x: left + index * step, w: step - 2, answered, share, abandoned: quarter?.abandoned ?? 0 };
  });
});
const most = computed(() => Math.max(4, ...bars.value.map((bar) => bar.answered)));
const mostShare = computed(() => Math.max(props.limit * 2, 6, ...bars.value.map((bar) => bar.share)));
const grid = computed(() => {
  const step = most.value > 20 ? 10 : most.value > 8 ? 5 : 2;
  return Array.from({ length: Math.floor(most.value / step) }, (_, index) => (index + 1) * step);
});
const y = (count: number) => up - (count / most.value) * (up - 12);
const limitY = computed(() => up + (props.limit / mostShare.value) * down);
const text = computed(() => {
  const answered = bars.value.reduce((sum, bar) => sum + bar.answered, 0);
  const abandoned = bars.value.reduce((sum, bar) => sum + bar.abandoned, 0);
  return `${answered} people answered in the last twelve hours, ${abandoned} of them were abandoned.`;
});
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${up + down + 22}`" role="img" :aria-label="text">
    <g v-for="count in grid" :key="count">
      <line :x1="left" :x2="width" :y1="y(count)" :y2="y(count)" class="grid" />
      <text :x="left - 6" :y="y(count) + 4" text-anchor="end">{{ count }}</text>
    </g>
    <template v-for="bar in bars" :key="bar.at">
      <rect :x="bar.x" :y="y(bar.answered)" :width="bar.w" :height="up - y(bar.answered)" class="answered">
        <title>{{ clock(bar.at) }}: {{ bar.answered }} answered, {{ bar.abandoned }} abandoned</title>
      </rect>
      <rect
        v-if="bar.share > 0"
        :x="bar.x"
        :y="up + 1"
        :width="bar.w"
        :height="(bar.share / mostShare) * down"
        class="abandoned"
      />
      <text v-if="bar.at % (4 * quarterMs * 2) === 0" :x="bar.x" :y="up + down + 18">
        {{ clock(bar.at) }}
      </text>
    </template>
    <line :x1="left" :x2="width" :y1="up" :y2="up" class="base" />
    <line :x1="left" :x2="width" :y1="limitY" :y2="limitY" class="limit" />
    <text :x="width" :y="limitY + 13" text-anchor="end" class="limit-text">
      abandoned, limit {{ limit }} %
    </text>
    <text :x="left" :y="10" class="answered-text">people who answered</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  display: block;
}
text {
  font: 11px/14px var(--mono);
  fill: var(--ink2);
}
.grid {
  stroke: var(--rule);
}
.base {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.answered {
  fill: var(--teal);
}
.answered-text {
  fill: var(--teal);
  font-family: var(--sans);
}
.abandoned {
  fill: var(--oxide);
  opacity: 0.75;
}
.limit {
  stroke: var(--oxide);
  stroke-dasharray: 4 3;
}
.limit-text {
  /* Readable also across a bar. */
  paint-order: stroke;
  stroke: var(--page);
  stroke-width: 5px;
  fill: var(--oxide);
  font-family: var(--sans);
}
</style>

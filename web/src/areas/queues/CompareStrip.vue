<script setup lang="ts">
import { computed } from 'vue';

/** One way to ring, drawn: from the median to the 90th percentile of waits, or a tick for each agent. */
const props = defineProps<{
  from?: number;
  to?: number;
  /** Each agent's figure, with their name for who points at it. */
  ticks?: readonly { name: string; value: number }[];
  /** Where the axis ends. */
  most: number;
  /** What is aimed at, dotted. */
  goal?: number | null;
  /** The median is another than that of the present way, by more than chance. */
  found?: boolean;
  present: boolean;
}>();
const width = computed(() => (props.ticks === undefined ? 240 : 120));
const x = (value: number) => 6 + (Math.min(value, props.most) / props.most) * (width.value - 12);
/** More ticks than can be told apart are drawn as their middle eight tenths, and the extremes. */
const mostTicks = 40;
const spread = computed(() => {
  const sorted = (props.ticks ?? []).map(({ value }) => value).sort((one, other) => one - other);
  const at = (share: number) => sorted[Math.round((sorted.length - 1) * share)]!;
  return sorted.length > mostTicks ? { low: at(0), from: at(0.1), to: at(0.9), high: at(1) } : null;
});
</script>

<template>
  <svg :width="width" height="18" :class="{ present }" aria-hidden="true">
    <line x1="6" :x2="width - 6" y1="14.500" y2="14.500" class="axis" />
    <template v-if="ticks === undefined">
      <line
        v-if="goal !== null && goal !== undefined && goal < most"
        :x1="x(goal)"
        :x2="x(goal)"
        y1="0"
        y2="18"
        class="goal"
      />
      <line :x1="x(from!)" :x2="x(to!)" y1="9" y2="9" class="span" />
      <line :x1="x(to!)" :x2="x(to!)" y1="5" y2="13" class="span" />
      <rect :x="x(from!) - 4" y="5" width="8" height="8" :class="found || present ? 'full' : 'open'" />
    </template>
    <template v-else-if="spread">
      <line :x1="x(spread.low)" :x2="x(spread.high)" y1="9" y2="9" class="span" />
      <rect
        :x="x(spread.from)"
        y="5"
        :width="Math.max(1, x(spread.to) - x(spread.from))"
        height="8"
        class="open"
      />
    </template>
    <template v-else>
      <line
        v-for="tick in ticks"
        :key="tick.name"
        :x1="x(tick.value)"
        :x2="x(tick.value)"
        y1="3"
        y2="14"
        class="span"
      >
        <title>{{ tick.name }}, {{ tick.value.toFixed(1) }}</title>
      </line>
    </template>
  </svg>
</template>

<style scoped>
svg {
  vertical-align: middle;
  margin-right: 6px;
}
.axis {
  stroke: var(--rule);
}
.goal {
  stroke: var(--rule2);
  stroke-dasharray: 1 3;
}
.span {
  stroke: var(--plum);
  stroke-width: 1.5;
}
.full {
  fill: var(--plum);
}
.open {
  fill: var(--page);
  stroke: var(--plum);
  stroke-width: 1.5;
}
.present .span {
  stroke: var(--ink);
}
.present .full {
  fill: var(--ink);
}
</style>

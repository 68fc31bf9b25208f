<script setup lang="ts">
import { computed } from 'vue';
import { isOpenAt, nextChange, type OpeningHours } from '@night-bell/core/hours/opening-hours';

/** Today from midnight to midnight on the reader's clock: where it is open, and where now is. */
const props = defineProps<{ hours: OpeningHours; from: number; now: number }>();
const width = 120;
const dayMs = 86_400_000;
const x = (at: number) => ((at - props.from) / dayMs) * width;

const bars = computed(() => {
  const found: { left: number; width: number }[] = [];
  const end = props.from + dayMs;
  for (let at = props.from; at < end;) {
    const next = Math.min(nextChange(props.hours, at, end) ?? end, end);
    if (isOpenAt(props.hours, at)) found.push({ left: x(at), width: x(next) - x(at) });
    at = next;
  }
  return found;
});
</script>

<template>
  <svg :width="width" height="40" class="beam" aria-hidden="true">
    <path :d="`M0 23.500h${width}M.500 20v7M30 20v7M60 20v7M90 20v7M119.500 20v7`" class="axis" />
    <rect
      v-for="bar in bars"
      :key="bar.left"
      :x="bar.left"
      y="13"
      :width="bar.width"
      height="10"
      class="bar"
    />
    <path :d="`M${x(now)} 0v40`" class="now" />
  </svg>
</template>

<style scoped>
.beam {
  flex: none;
}
.axis {
  stroke: var(--rule2);
  fill: none;
}
.bar {
  fill: var(--teal);
}
.now {
  stroke: var(--ink);
}
</style>

<script setup lang="ts">
import { computed } from 'vue';

/** A sound in a list: to scale, one-sided on its line; longer ones are broken before the end. */
const props = defineProps<{ peaks: readonly number[]; seconds: number }>();
const pixelsASecond = 3;
const most = 96;
const height = 15;
const width = computed(() => Math.max(6, Math.min(most, Math.round(props.seconds * pixelsASecond))));
const isBroken = computed(() => props.seconds * pixelsASecond > most);
const bars = computed(() => {
  const count = Math.floor((width.value - (isBroken.value ? 8 : 0)) / 2);
  const share = isBroken.value ? most / (props.seconds * pixelsASecond) : 1;
  const used = Math.max(1, Math.floor(props.peaks.length * share));
  return Array.from({ length: count }, (_, i) => {
    const from = Math.floor((i * used) / count);
    return Math.max(...props.peaks.slice(from, Math.max(from + 1, Math.floor(((i + 1) * used) / count))));
  });
});
const path = computed(() =>
  bars.value
    .map((bar, i) => `M${i * 2 + 0.5} ${height - 1}v-${Math.max(1, (bar / 100) * (height - 2)).toFixed(1)}`)
    .join(''),
);
</script>

<template>
  <svg :width="width" :height="height" aria-hidden="true">
    <path :d="path" class="bars" />
    <path v-if="isBroken" :d="`M${width - 5} ${height - 6}l2 5m0 -5l2 5`" class="bars" />
  </svg>
</template>

<style scoped>
.bars {
  stroke: var(--ink2);
  stroke-width: 1;
  fill: none;
}
</style>

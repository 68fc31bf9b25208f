<script setup lang="ts">
import { computed } from 'vue';
import type { DrawnStrand, Point } from './geometry.ts';
import type { View } from './panning.ts';

/** All of a picture, small, and what of it is seen; a press or a drag goes there. */
const props = defineProps<{
  strands: readonly DrawnStrand[];
  size: { width: number; height: number };
  seen: () => View;
}>();
const emit = defineEmits<{ go: [Point] }>();

const widest = 140;
const highest = 84;
const scale = computed(() => Math.min(widest / props.size.width, highest / props.size.height));

function go(event: PointerEvent): void {
  if (event.buttons === 0) return;
  const { left, top } = (event.currentTarget as Element).getBoundingClientRect();
  emit('go', { x: (event.clientX - left) / scale.value, y: (event.clientY - top) / scale.value });
}
</script>

<template>
  <svg
    class="small-map"
    :width="size.width * scale"
    :height="size.height * scale"
    :viewBox="`0 0 ${size.width} ${size.height}`"
    aria-hidden="true"
    @pointerdown="go"
    @pointermove="go"
  >
    <path v-for="(each, index) in strands" :key="index" :d="each.path" :stroke-width="2.4 / scale" />
    <rect v-bind="{ ...seen() }" :stroke-width="1.4 / scale" />
  </svg>
</template>

<style scoped>
.small-map {
  position: absolute;
  right: 12px;
  bottom: 12px;
  background: var(--sheet);
  outline: 1px solid var(--rule2);
  cursor: crosshair;
  touch-action: none;
}
path {
  fill: none;
  stroke: var(--rope-d);
}
rect {
  fill: var(--brass);
  fill-opacity: 0.12;
  stroke: var(--brass);
}
</style>

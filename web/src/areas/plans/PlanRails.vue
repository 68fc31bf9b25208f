<script setup lang="ts">
import type { Rail } from './plan-lines.ts';

/** What runs past a row of a plan: the rope of shallower steps, and strands that other branches hang on. */
defineProps<{ rails: readonly Rail[]; rope: string }>();
const left = (depth: number) => `${56 + 28 + depth * 28 - 2.5}px`;
</script>

<template>
  <svg
    v-for="rail in rails"
    :key="rail.depth"
    class="rail"
    :style="{ left: left(rail.depth) }"
    aria-hidden="true"
  >
    <rect v-if="rail.rope" width="5" height="100%" :fill="`url(#${rope}-rope)`" />
    <rect v-else x="1" width="3" height="100%" class="hanging" />
  </svg>
</template>

<style scoped>
.rail {
  position: absolute;
  top: 0;
  width: 5px;
  height: 100%;
}
.hanging {
  fill: var(--wi-d);
  opacity: 0.75;
}
</style>

<script setup lang="ts">
import type { StepKindName } from '@night-bell/core/model/plan';
import PlanGlyph from './PlanGlyph.vue';

/** The knot of one step on the rope of a plan. */
defineProps<{ kind: StepKindName; rope: string; first: boolean; last: boolean }>();
</script>

<template>
  <svg class="mark" width="56" height="100%" aria-hidden="true">
    <rect
      x="25.5"
      :y="first ? 18 : 0"
      width="5"
      :height="last ? (first ? 0 : 18) : '100%'"
      :fill="`url(#${rope}-rope)`"
    />
    <PlanGlyph :kind="kind" color="var(--wi-d)" ground="var(--page)" transform="translate(28 18)" />
  </svg>
</template>

<style scoped>
.mark {
  position: absolute;
  inset: 0;
}
</style>

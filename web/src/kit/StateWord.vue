<script setup lang="ts">
import Shape, { type ShapeName } from './Shape.vue';

/** A shape, a gap, a word: every state looks like this. */
defineProps<{ shape: ShapeName; word: string; tone?: 'fault' }>();
</script>

<template>
  <span class="state"><Shape :name="shape" :tone="tone" />{{ word }}</span>
</template>

<style scoped>
.state {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  white-space: nowrap;
}
</style>

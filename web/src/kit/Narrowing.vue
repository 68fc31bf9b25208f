<script setup lang="ts">
import { useTurn } from './turns.ts';

/** The sentence over a list, by which it is narrowed. Its fields are put up after the list. */
const come = useTurn();
</script>

<template>
  <div class="narrowing"><slot v-if="come" /></div>
</template>

<style scoped>
.narrowing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 8px;
  /* What it holds is not there at once; the list under it stays where it is. */
  min-height: 43px;
  padding: 5px 20px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
  flex: none;
}
.narrowing > :slotted(input) {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 24px;
  width: 160px;
}
</style>

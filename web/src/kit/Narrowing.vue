<script setup lang="ts">
import { onMounted, ref, useSlots, type VNode } from 'vue';
import { turn } from './turns.ts';

/** The sentence over a list, by which it is narrowed. Its words and fields are put up after the list, some at a time. */
defineProps<{
  /** Its fields fill two lines of a window of the usual width. */
  tall?: boolean;
}>();
const some = 8;
const slots = useSlots();
const come = ref(document.hidden ? Number.POSITIVE_INFINITY : 0);
let all: VNode[] = [];
const Sentence = () => {
  all = slots.default?.() ?? [];
  return all.slice(0, come.value);
};
onMounted(async () => {
  for (; come.value < all.length; come.value += some) await turn();
  come.value = Number.POSITIVE_INFINITY;
});
</script>

<template>
  <div class="narrowing" :class="{ tall }"><Sentence /></div>
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
.narrowing.tall {
  min-height: 68px;
}
.narrowing > :deep(input) {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 24px;
  width: 160px;
}
</style>

<script setup lang="ts">
import Shape from './Shape.vue';

/** Whether callers meet what is written: a plan, a prompt. */
defineProps<{ state: 'published' | 'changed' | 'draft' }>();
const words = { published: 'Published', changed: 'Changed', draft: 'Draft' };
</script>

<template>
  <span class="state"><Shape :name="state === 'published' ? 'running' : state" /> {{ words[state] }}</span>
</template>

<style scoped>
.state {
  white-space: nowrap;
}
</style>

<script setup lang="ts">
import { useForm } from './form.ts';

/** One of a few, within a sentence. */
defineProps<{ field: string; label: string; items: readonly { value: string; title: string }[] }>();
const model = defineModel<string>({ required: true });
const form = useForm();
</script>

<template>
  <select :id="`${form.kind}-${field}`" v-model="model" :aria-label="label" :disabled="form.readonly">
    <option v-for="{ value, title } in items" :key="value" :value="value">{{ title }}</option>
  </select>
</template>

<style scoped>
select {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 24px;
  font: 13px/18px var(--sans);
}
option {
  background: var(--sheet);
}
</style>

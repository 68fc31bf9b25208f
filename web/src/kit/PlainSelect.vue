<script setup lang="ts" generic="Value extends string">
/** The browser's own list of a few words, in a line that is read. */
defineProps<{
  label: string;
  options: readonly { readonly value: Value; readonly title: string }[];
  readonly: boolean;
}>();
const model = defineModel<Value>({ required: true });
</script>

<template>
  <select
    :value="model"
    :aria-label="label"
    :disabled="readonly"
    @change="model = ($event.target as HTMLSelectElement).value as Value"
  >
    <option v-for="{ value, title } in options" :key="value" :value="value">{{ title }}</option>
  </select>
</template>

<style scoped>
select {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: var(--sheet);
  color: var(--ink);
  height: 26px;
  padding: 0 2px;
}
</style>

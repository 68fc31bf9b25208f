<script setup lang="ts">
/** Chooses one more of something; ready for the next as soon as it is chosen. */
defineProps<{
  items: readonly { value: string; title: string; props?: object }[];
  label: string;
  /** The items are those that fit already. */
  noFilter?: boolean;
}>();
const emit = defineEmits<{ add: [value: string] }>();
/** What is typed to find one. */
const search = defineModel<string>('search', { default: '' });
const menu = defineModel<boolean>('menu', { default: false });

function add(value: string | null): void {
  if (value === null) return;
  emit('add', value);
  search.value = '';
}
</script>

<template>
  <v-autocomplete
    v-model:search="search"
    v-model:menu="menu"
    :no-filter="noFilter"
    :model-value="null"
    :items="items"
    :placeholder="label"
    :aria-label="label"
    auto-select-first
    @update:model-value="add"
  />
</template>

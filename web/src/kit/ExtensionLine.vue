<script setup lang="ts">
import TextLine from './TextLine.vue';

/** What is dialled inside the house to reach it, or none. */
const model = defineModel<string | null>({ required: true });
</script>

<template>
  <TextLine v-model="model" field="extension" label="Extension" mono placeholder="none" emptied="null" />
</template>

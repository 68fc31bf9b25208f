<script setup lang="ts">
/** Takes a row out of what is listed; what it does to which is said to those who do not see the row. */
defineProps<{ what: string }>();
</script>

<template>
  <button type="button" :aria-label="what" :title="what">×</button>
</template>

<style scoped>
button {
  border: 0;
  background: none;
  color: var(--ink2);
  width: 24px;
  height: 24px;
  font-size: 15px;
  cursor: pointer;
}
</style>

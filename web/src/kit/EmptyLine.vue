<script setup lang="ts">
/** What stands where rows would be: why there are none, and what to do about it. */
defineProps<{ text: string }>();
</script>

<template>
  <div class="empty">
    <p>{{ text }}</p>
    <slot />
  </div>
</template>

<style scoped>
.empty {
  padding: 28px 24px 28px 60px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 12px;
  max-width: 60ch;
}
</style>

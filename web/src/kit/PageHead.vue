<script setup lang="ts">
defineProps<{ title: string; sentence: string }>();
</script>

<template>
  <header class="head">
    <h1>{{ title }}</h1>
    <slot name="state" />
    <p class="second">{{ sentence }}</p>
    <div class="actions"><slot /></div>
  </header>
</template>

<style scoped>
.head {
  height: 60px;
  padding: 8px 20px 0;
  display: flex;
  align-items: baseline;
  gap: 16px;
  border-bottom: 3px double var(--rule2);
  flex: none;
}
h1 {
  padding-top: 12px;
  white-space: nowrap;
}
p {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-width: 0;
  flex: 1;
}
.actions {
  display: flex;
  gap: 8px;
  align-self: center;
}
</style>

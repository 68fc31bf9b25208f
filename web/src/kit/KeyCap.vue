<template>
  <kbd class="cap"><slot /></kbd>
</template>

<style scoped>
.cap {
  font: 11px/14px var(--mono);
  border: 1px solid currentColor;
  border-radius: 2px;
  padding: 0 4px;
  margin-left: 8px;
  opacity: 0.85;
}
</style>

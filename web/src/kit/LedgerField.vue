<script setup lang="ts">
import Shape from './Shape.vue';

/** A label at the left, the field beside it, the fault under it. */
defineProps<{ label: string; fault?: string | undefined; hint?: string; for?: string }>();
</script>

<template>
  <div class="field" :class="{ faulty: fault }">
    <label :for="$props.for">{{ label }}</label>
    <div class="value">
      <slot />
      <p v-if="fault" class="small fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
      <p v-else-if="hint" class="small second">{{ hint }}</p>
    </div>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 0 8px;
  margin-bottom: 6px;
}
label {
  color: var(--ink2);
  padding-top: 4px;
}
.value {
  min-width: 0;
  min-height: 26px;
  padding-top: 1px;
}
p {
  padding: 2px 0 4px;
}
</style>

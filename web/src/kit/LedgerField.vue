<script setup lang="ts">
import { nextTick, ref, useId, watch } from 'vue';
import Shape from './Shape.vue';

/** A label at the left, the field beside it, the fault under it; the field says that it is wrong, and why. */
const props = defineProps<{ label: string; fault?: string | undefined; hint?: string; for?: string }>();
const value = ref<HTMLElement | null>(null);
const said = useId();
watch(
  () => [props.fault, props.hint],
  async () => {
    await nextTick();
    const field = value.value?.querySelector('input, textarea, select');
    if (field == null) return;
    if (props.fault) field.setAttribute('aria-invalid', 'true');
    else field.removeAttribute('aria-invalid');
    if (props.fault || props.hint) field.setAttribute('aria-describedby', said);
    else field.removeAttribute('aria-describedby');
  },
  { immediate: true },
);
</script>

<template>
  <div class="field" :class="{ faulty: fault }">
    <label v-if="$props.for" :for="$props.for">{{ label }}</label>
    <span v-else class="label">{{ label }}</span>
    <div ref="value" class="value">
      <slot />
      <p v-if="fault" :id="said" class="small fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
      <p v-else-if="hint" :id="said" class="small second">{{ hint }}</p>
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
label,
.label {
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

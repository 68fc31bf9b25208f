<script setup lang="ts">
import { ref } from 'vue';

/** A secret shown this once, ready to be copied. */
const props = defineProps<{ label: string; value: string; taker: string }>();
const copied = ref(false);

async function copy(): Promise<void> {
  await navigator.clipboard.writeText(props.value).catch(() => undefined);
  copied.value = true;
  setTimeout(() => (copied.value = false), 2_000);
}
</script>

<template>
  <div class="secret">
    <span class="label">{{ label }}</span>
    <div>
      <code class="mono">{{ value }}</code>
      <button class="link" type="button" @click="copy">{{ copied ? 'Copied' : 'Copy' }}</button>
      <p class="small second">{{ taker }}</p>
    </div>
  </div>
</template>

<style scoped>
.secret {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 8px;
  padding: 4px 0;
}
.label {
  color: var(--ink2);
}
code {
  user-select: all;
  margin-right: 12px;
  overflow-wrap: anywhere;
}
</style>

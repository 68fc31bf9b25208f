<script setup lang="ts">
import { ref, watch } from 'vue';
import { afterPress } from './pressing.ts';

/** A public number: what is wrong with it, or odd about it, is said as soon as it is typed. */
defineProps<{ id: string; placeholder: string; readonly: boolean; autofocus?: boolean }>();
const model = defineModel<string>({ required: true });
const said = ref('');

/** The library of numbering plans is read when somebody types one. */
async function look(): Promise<void> {
  const typed = model.value;
  if (typed.trim() === '') return void (said.value = '');
  const { doubtOf, readNumber } = await import('@night-bell/core/numbers/e164');
  const reading = readNumber(typed);
  await afterPress();
  if (typed === model.value) said.value = reading.ok ? (doubtOf(reading.e164) ?? '') : reading.reason;
}
watch(model, () => (said.value = ''));
</script>

<template>
  <v-text-field
    :id="id"
    v-model="model"
    class="mono"
    :placeholder="placeholder"
    :readonly="readonly"
    :autofocus="autofocus"
    @change="look"
  />
  <p v-if="said" class="small doubt" role="status">{{ said }}</p>
</template>

<style scoped>
.doubt {
  color: var(--plum);
}
</style>

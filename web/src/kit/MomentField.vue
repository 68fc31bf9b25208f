<script setup lang="ts">
import { ref, watch } from 'vue';
import { momentInWords, readMoment } from './days.ts';

/** An instant by the wall clock, typed: '24 Dec 14:30', 'tomorrow 9:00', '14:30' of today. */
const props = defineProps<{ id: string; today: string; placeholder: string }>();
/** YYYY-MM-DDTHH:mm; empty for none. */
const model = defineModel<string>({ required: true });
const text = ref('');
const faulty = ref(false);
watch(model, (moment) => (text.value = momentInWords(moment)), { immediate: true });

function take(): void {
  const typed = text.value.trim();
  const read = typed === '' || typed === props.placeholder ? '' : readMoment(typed, props.today);
  faulty.value = read === null;
  if (read === null) return;
  model.value = read;
  text.value = momentInWords(read);
}
</script>

<template>
  <input
    :id="id"
    v-model="text"
    autocomplete="off"
    :placeholder="placeholder"
    :class="{ faulty }"
    :aria-invalid="faulty"
    :title="faulty ? 'Write a day and a time, like 24 Dec 14:30.' : text"
    @change="take"
  />
</template>

<style scoped>
.faulty {
  color: var(--oxide);
}
</style>

<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { asDate, dayInWords, ofDate, readDay, type Toward } from './days.ts';

/** A day, typed or picked: '24 Dec', '24.12.2026', '2026-12-24', 'tomorrow'. Shown in words, in everybody's order. */
const props = defineProps<{
  label: string;
  today: string;
  readonly?: boolean;
  id?: string;
  /** Without a year: the next time the day comes, or the last time it was. */
  toward?: Toward;
}>();
/** YYYY-MM-DD; empty for none. */
const model = defineModel<string>({ required: true });
const open = ref(false);
const text = ref('');
const faulty = ref(false);

watch(model, (date) => (text.value = dayInWords(date)), { immediate: true });

function take(): void {
  if (text.value === dayInWords(model.value)) return;
  const date = readDay(text.value, props.today, props.toward);
  faulty.value = date === null;
  if (date !== null) model.value = date;
}
const picked = computed({
  get: () => asDate(model.value),
  set: (date: Date | null) => {
    if (date === null) return;
    model.value = ofDate(date);
    open.value = false;
  },
});
</script>

<template>
  <span class="day">
    <input
      :id="id"
      v-model="text"
      :aria-label="label"
      :aria-invalid="faulty"
      :title="faulty ? 'Write a day like 24 Dec, or 2026-12-24.' : undefined"
      :class="{ faulty }"
      :readonly="readonly"
      placeholder="24 Dec"
      @change="take"
    />
    <v-menu v-if="!readonly" v-model="open" :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <button v-bind="menu" type="button" :aria-label="`Pick: ${label}`">▾</button>
      </template>
      <v-date-picker v-model="picked" :first-day-of-week="1" hide-header show-adjacent-months />
    </v-menu>
  </span>
</template>

<style scoped>
.day {
  display: inline-flex;
  width: 100%;
}
input {
  flex: 1;
  min-width: 0;
  border: 0;
  background: none;
  color: var(--ink);
  height: 24px;
}
.faulty {
  color: var(--oxide);
}
button {
  min-width: 24px;
  border: 0;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  width: 20px;
}
</style>

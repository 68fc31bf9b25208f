<script setup lang="ts">
import KeyCap from '../../kit/KeyCap.vue';
import { dayInWords } from '../../kit/days.ts';

/** Whether the drawing is of every week or of one: then each change is of its day alone. */
defineProps<{ dates: readonly string[] | null }>();
const emit = defineEmits<{ every: []; go: [weeks: number] }>();
const short = (date: string) =>
  dayInWords(date)
    .replace(/^\w+ /, '')
    .replace(/ \d{4}$/, '');
</script>

<template>
  <p class="which">
    <button type="button" :aria-pressed="dates === null" @click="emit('every')">Every week</button>
    <button type="button" :aria-pressed="dates !== null" @click="emit('go', 0)">
      {{ dates === null ? 'One week' : `Week of ${short(dates[0]!)} to ${short(dates[6]!)}` }}
    </button>
    <template v-if="dates !== null">
      <button type="button" class="step" aria-label="Earlier week" @click="emit('go', -1)">
        ‹<KeyCap>[</KeyCap>
      </button>
      <button type="button" class="step" aria-label="Later week" @click="emit('go', 1)">
        ›<KeyCap>]</KeyCap>
      </button>
      <span class="second small">What you change here is of that day alone.</span>
    </template>
  </p>
</template>

<style scoped>
.which {
  display: flex;
  align-items: baseline;
  gap: 16px;
  padding: 2px 20px;
}
button {
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  padding: 2px 0;
}
button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--ink);
}
.step {
  color: var(--brass);
}
</style>

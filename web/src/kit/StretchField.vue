<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import {
  asDate,
  nearStretches,
  ofDate,
  readStretch,
  type Stretch,
  stretchInWords,
  type Toward,
} from './days.ts';

/** A stretch of days, typed ('24 Dec to 2 Jan', 'last 7 days') or picked. Shown in words. */
const props = defineProps<{ label: string; today: string; toward: Toward; placeholder?: string }>();
/** Both empty for all days. */
const model = defineModel<Stretch>({ required: true });
const open = ref(false);
const text = ref('');
const faulty = ref(false);
const half = ref<Date | null>(null);
watch(model, (stretch) => (text.value = stretchInWords(stretch)), { immediate: true });

function take(): void {
  faulty.value = false;
  if (text.value.trim() === stretchInWords(model.value)) return;
  if (text.value.trim() === '') return set({ from: '', to: '' });
  const read = readStretch(text.value, props.today, props.toward);
  faulty.value = read === null;
  if (read !== null) set(read);
}
function set(stretch: Stretch): void {
  model.value = stretch;
  open.value = false;
}

/** The first day that is picked waits for the second. */
const picked = computed(() => {
  if (half.value !== null) return [half.value];
  const { from, to } = model.value;
  return [asDate(from), asDate(to)].filter((date) => date !== null);
});
function pick(dates: unknown): void {
  const chosen = (dates as Date[]).toSorted((one, other) => one.getTime() - other.getTime());
  const [first, last] = [chosen[0], chosen.at(-1)];
  if (first === undefined || last === undefined) return;
  half.value = chosen.length === 1 ? first : null;
  if (chosen.length > 1) set({ from: ofDate(first), to: ofDate(last) });
}
watch(open, () => (half.value = null));
</script>

<template>
  <span class="stretch">
    <input
      v-model="text"
      :aria-label="label"
      :aria-invalid="faulty"
      :title="faulty ? 'Write days like 24 Dec to 2 Jan, or last 7 days.' : text"
      :class="{ faulty }"
      :placeholder="placeholder ?? 'any day'"
      @change="take"
      @keydown.esc="text = stretchInWords(model)"
    />
    <v-menu v-model="open" :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <button v-bind="menu" type="button" :aria-label="`Pick: ${label}`">▾</button>
      </template>
      <div class="choice">
        <ul>
          <li v-for="near in nearStretches(today, toward)" :key="near.title">
            <button type="button" @click="set(near.stretch)">{{ near.title }}</button>
          </li>
          <li><button type="button" @click="set({ from: '', to: '' })">Any day</button></li>
        </ul>
        <v-date-picker
          :model-value="picked"
          multiple="range"
          :first-day-of-week="1"
          hide-header
          show-adjacent-months
          @update:model-value="pick"
        />
      </div>
    </v-menu>
  </span>
</template>

<style scoped>
.stretch {
  display: inline-flex;
  border-bottom: 1px solid var(--rule2);
}
input {
  width: 190px;
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
}
.choice {
  display: flex;
  background: var(--sheet);
  border: 1px solid var(--rule2);
}
ul {
  list-style: none;
  padding: 12px 0 12px 12px;
  white-space: nowrap;
}
li button {
  padding: 4px 8px;
  color: var(--ink);
  width: 100%;
  text-align: left;
}
li button:hover,
li button:focus-visible {
  background: var(--wash);
}
</style>

<script setup lang="ts">
import { ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { send } from '../api/items.ts';
import { calmly } from '../kit/calmly.ts';

/** Who calls: a number, or a customer found by name whose number that is. */
const model = defineModel<string>({ required: true });
const emit = defineEmits<{ chosen: [] }>();

interface Found {
  name: string;
  numbers: string[];
}
const most = 8;
const text = ref(model.value);
const found = ref<{ name: string; number: string }[]>([]);
const isName = (typed: string) => /\p{L}{2}/u.test(typed);

async function search(typed: string): Promise<void> {
  const path = `/api/records?text=${encodeURIComponent(typed)}&limit=${most}`;
  const { records } = await send<{ records: Found[] }>('GET', path).catch(() => ({ records: [] }));
  found.value = records.flatMap(({ name, numbers }) => numbers.map((number) => ({ name, number })));
}
const searchCalmly = calmly(() => void search(text.value.trim()), 200);
function typing(): void {
  if (isName(text.value)) searchCalmly();
}
watch(model, (number) => (text.value = number));

/** A name that was typed out stands for the first of the customers found by it. */
async function take(): Promise<void> {
  const typed = text.value.trim();
  if (isName(typed)) {
    await search(typed);
    const first = found.value[0];
    if (first === undefined) return;
    text.value = formatNumber(first.number);
  }
  model.value = text.value;
  emit('chosen');
}
</script>

<template>
  <span>
    <input
      id="test-from"
      v-model="text"
      list="test-callers"
      class="mono"
      autocomplete="off"
      title="A number, or the name of a customer"
      @input="typing"
      @change="take"
      @focus="($event.target as HTMLInputElement).select()"
    />
    <datalist id="test-callers">
      <option v-for="each in found" :key="each.number" :value="formatNumber(each.number)">
        {{ each.name }}
      </option>
    </datalist>
  </span>
</template>

<style scoped>
input {
  width: 100%;
}
</style>

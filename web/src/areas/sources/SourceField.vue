<script setup lang="ts">
import { computed, ref } from 'vue';
import { api, ApiProblem, ask } from '../../api/client.ts';
import { making } from '../../kit/making.ts';
import { useSetUp } from '../../shell/set-up.ts';

/** Which advert makes a number ring; a new one is made right here from its name. */
const props = defineProps<{ id: string; readonly?: boolean }>();
const model = defineModel<string | null>({ required: true });
const setUp = useSetUp();
const search = ref('');
const fault = ref('');

const items = computed(() => [
  { value: 'none', title: 'none' },
  ...(setUp.sources ?? [])
    .filter((each) => !each.retired)
    .map((each) => ({ value: each.id, title: each.name })),
  ...(props.readonly === true || search.value.trim() === '' || known(search.value)
    ? []
    : [{ value: 'make', title: `Make ${search.value.trim()}` }]),
]);

function known(name: string): boolean {
  const wanted = name.trim().toLowerCase();
  return wanted === 'none' || (setUp.sources ?? []).some((each) => each.name.toLowerCase() === wanted);
}

function choose(value: string | null): void {
  fault.value = '';
  if (value === 'make') void making(make());
  else model.value = value === 'none' ? null : value;
}

async function make(): Promise<void> {
  try {
    const fromDay = new Date().toISOString().slice(0, 10);
    const source = await ask(api.POST('/api/sources', { body: { name: search.value.trim(), fromDay } }));
    await setUp.load();
    model.value = source.id;
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.detail : 'That did not work. Try again.';
  }
}
</script>

<template>
  <v-autocomplete
    :id="id"
    v-model:search="search"
    aria-label="Call source"
    :model-value="model ?? 'none'"
    :items="items"
    :readonly="readonly"
    auto-select-first
    @update:model-value="choose"
  />
  <p v-if="fault" class="small fault-text">{{ fault }}</p>
</template>

<script setup lang="ts">
import { computed, ref } from 'vue';
import { api, ask } from '../../api/client.ts';
import { useNotices } from '../../shell/notices.ts';
import { making } from '../../kit/making.ts';
import { useSetUp } from '../../shell/set-up.ts';

/** A team, or one made from what was typed. */
defineProps<{ id: string; readonly?: boolean }>();
const model = defineModel<string | null>({ required: true });
const setUp = useSetUp();
const notices = useNotices();
const search = ref('');

const typed = computed(() => search.value.trim());
const isNew = computed(
  () =>
    typed.value !== '' && !setUp.teams.some((team) => team.name.toLowerCase() === typed.value.toLowerCase()),
);
const items = computed(() => [
  { value: 'none', title: 'no team' },
  ...setUp.teams.map((team) => ({ value: team.id, title: team.name })),
  ...(isNew.value ? [{ value: 'make', title: typed.value, props: { subtitle: 'Make this team' } }] : []),
]);

function choose(value: string | null): void {
  if (value === 'make') void making(make());
  else model.value = value === 'none' ? null : value;
}

async function make(): Promise<void> {
  try {
    const team = await ask(api.POST('/api/teams', { body: { name: typed.value } }));
    await setUp.load();
    model.value = team.id;
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <v-autocomplete
    :id="id"
    v-model:search="search"
    :model-value="model ?? 'none'"
    :items="items"
    :readonly="readonly"
    auto-select-first
    @update:model-value="choose"
  />
</template>

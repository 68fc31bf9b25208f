<script setup lang="ts">
import { computed } from 'vue';
import type { TextReader } from '@night-bell/core/model/numbers.schema';
import { useFinding } from '../../kit/finding.ts';
import { type DirectoryEntry, useDirectory } from '../../shell/directory.ts';

/** Who reads the texts of a number: a person, or whoever is in a queue. */
defineProps<{ id: string; readonly?: boolean; label?: string }>();
const model = defineModel<TextReader | null>({ required: true });
const directory = useDirectory();

const chosen = computed(() => (model.value === null ? null : directory.entry(model.value.id)));
const nobody = 'nobody: texts are refused';
const titleOf = ({ kind, name, extension }: DirectoryEntry) =>
  kind === 'person' ? `${name}, ${extension ?? ''}` : name;
const { search, open, typed, found } = useFinding(
  () => ['queue', 'person'],
  () => (model.value === null ? nobody : chosen.value === null ? '' : titleOf(chosen.value)),
);

const items = computed(() => {
  const entries = found.value;
  const missing = chosen.value !== null && !entries.some(({ id }) => id === chosen.value!.id);
  return [
    ...(typed.value === '' ? [{ value: 'nobody', title: nobody }] : []),
    ...[...(missing ? [chosen.value!] : []), ...entries].map((entry) => ({
      value: `${entry.kind} ${entry.id}`,
      title: titleOf(entry),
      props: { subtitle: entry.kind === 'queue' ? 'All members of this queue' : 'Person' },
    })),
  ];
});
const value = computed(() => (model.value === null ? 'nobody' : `${model.value.kind} ${model.value.id}`));

function choose(chosen: string | null): void {
  const [kind, id] = (chosen ?? 'nobody').split(' ') as [TextReader['kind'], string | undefined];
  model.value = id === undefined ? null : { kind, id };
}
</script>

<template>
  <v-autocomplete
    :id="id"
    v-model:search="search"
    v-model:menu="open"
    no-filter
    :aria-label="label ?? 'Who reads its texts'"
    :model-value="value"
    :items="items"
    :readonly="readonly"
    auto-select-first
    @update:model-value="choose"
  />
</template>

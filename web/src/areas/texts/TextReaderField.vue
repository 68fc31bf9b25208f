<script setup lang="ts">
import { computed } from 'vue';
import type { TextReader } from '@night-bell/core/model/numbers.schema';
import { useSetUp } from '../../shell/set-up.ts';

/** Who reads the texts of a number: a person, or whoever is in a queue. */
defineProps<{ id: string; readonly?: boolean; label?: string }>();
const model = defineModel<TextReader | null>({ required: true });
const setUp = useSetUp();

const items = computed(() => [
  { value: 'nobody', title: 'nobody: texts are refused' },
  ...setUp.destinations
    .filter(({ kind }) => kind === 'queue' || kind === 'person')
    .map(({ kind, id, name, extension }) => ({
      value: `${kind} ${id}`,
      title: kind === 'person' ? `${name}, ${extension ?? ''}` : name,
      props: { subtitle: kind === 'queue' ? 'All members of this queue' : 'Person' },
    })),
]);
const value = computed(() => (model.value === null ? 'nobody' : `${model.value.kind} ${model.value.id}`));

function choose(chosen: string | null): void {
  const [kind, id] = (chosen ?? 'nobody').split(' ') as [TextReader['kind'], string | undefined];
  model.value = id === undefined ? null : { kind, id };
}
</script>

<template>
  <v-autocomplete
    :id="id"
    :aria-label="label ?? 'Who reads its texts'"
    :model-value="value"
    :items="items"
    :readonly="readonly"
    auto-select-first
    @update:model-value="choose"
  />
</template>

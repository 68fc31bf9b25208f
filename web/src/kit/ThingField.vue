<script setup lang="ts">
import { computed } from 'vue';
import { useDirectory } from '../shell/directory.ts';
import { kindWords, secondOf, useFinding } from './finding.ts';

/** One thing of some kinds, chosen by typing part of its name, extension or digits; null where `none` says what that is. */
const props = defineProps<{
  id?: string;
  label: string;
  kinds: readonly string[];
  none?: string;
  readonly?: boolean;
  placeholder?: string;
  /** Those that cannot be chosen. */
  without?: readonly string[];
}>();
const model = defineModel<string | null>({ required: true });
const directory = useDirectory();

const chosen = computed(() => (model.value === null ? null : directory.entry(model.value)));
const title = computed(() => (model.value === null ? (props.none ?? '') : directory.nameOf(model.value)));
const { search, open, typed, found, looking, failed } = useFinding(
  () => props.kinds,
  () => title.value,
);

const items = computed(() => {
  const entries = found.value.filter(({ id }) => props.without?.includes(id) !== true);
  const missing = chosen.value !== null && !entries.some(({ id }) => id === chosen.value!.id);
  return [
    ...(props.none !== undefined && typed.value === '' ? [{ value: null, title: props.none }] : []),
    ...[...(missing ? [chosen.value!] : []), ...entries].map((entry) => ({
      value: entry.id,
      title: entry.name,
      props: {
        subtitle: [props.kinds.length > 1 ? kindWords[entry.kind] : '', secondOf(entry)]
          .filter(Boolean)
          .join(', '),
      },
    })),
  ];
});
const said = computed(() =>
  failed.value ? 'This could not be read.' : looking.value ? 'Looking …' : 'Nothing in use is called that.',
);
</script>

<template>
  <v-autocomplete
    :id="id"
    v-model="model"
    v-model:search="search"
    v-model:menu="open"
    :aria-label="label"
    :items="items"
    :readonly="readonly"
    :placeholder="placeholder"
    :no-data-text="said"
    no-filter
    auto-select-first
  />
</template>

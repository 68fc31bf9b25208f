<script setup lang="ts" generic="Value">
import FormLine from './FormLine.vue';

/** A line on which one of a few is chosen, or several with `many`. */
defineProps<{
  field: string;
  label: string;
  items: readonly { value: unknown; title: string }[];
  hint?: string | undefined;
  placeholder?: string;
  many?: boolean;
  /** There may be too many to look through: they are found by typing. */
  found?: boolean;
}>();
const model = defineModel<Value>({ required: true });
</script>

<template>
  <FormLine v-slot="{ id, readonly }" :field="field" :label="label" :hint="hint">
    <v-autocomplete
      v-if="many || found"
      :id="id"
      v-model="model as never"
      :items="items"
      :multiple="many ?? false"
      :chips="many ?? false"
      :closable-chips="many === true && !readonly"
      :placeholder="placeholder"
      :readonly="readonly"
      auto-select-first
    />
    <v-select
      v-else
      :id="id"
      v-model="model as never"
      :items="items"
      :placeholder="placeholder"
      :readonly="readonly"
    />
  </FormLine>
</template>

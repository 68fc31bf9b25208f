<script setup lang="ts">
import FormLine from './FormLine.vue';

/** A line of text or a figure. Emptied, it is what `emptied` says: null for none, undefined for what is kept. */
const props = defineProps<{
  field: string;
  label: string;
  hint?: string | undefined;
  placeholder?: string;
  mono?: boolean;
  figure?: boolean;
  password?: boolean;
  autofocus?: boolean;
  maxlength?: number;
  emptied?: 'null' | 'undefined';
}>();
const model = defineModel<string | number | null | undefined>({ required: true });

function typed(text: string): void {
  if (text === '' && props.emptied !== undefined) model.value = props.emptied === 'null' ? null : undefined;
  else
    model.value =
      props.figure === true && text.trim() !== '' && !Number.isNaN(Number(text)) ? Number(text) : text;
}
</script>

<template>
  <FormLine v-slot="{ id, readonly }" :field="field" :label="label" :hint="hint">
    <v-text-field
      :id="id"
      :model-value="model ?? ''"
      :class="{ mono: mono || figure }"
      :placeholder="placeholder"
      :readonly="readonly"
      :autofocus="autofocus"
      :maxlength="maxlength"
      :type="password ? 'password' : 'text'"
      :inputmode="figure ? 'numeric' : undefined"
      :autocomplete="password ? 'new-password' : 'off'"
      @update:model-value="typed"
    />
  </FormLine>
</template>

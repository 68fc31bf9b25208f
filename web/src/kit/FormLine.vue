<script setup lang="ts">
import { computed } from 'vue';
import { faultOf, useForm } from './form.ts';
import LedgerField from './LedgerField.vue';

/** A line of a form: the field's label, what edits it, what is wrong with it. */
const props = defineProps<{
  field: string;
  label: string;
  hint?: string | undefined;
  /** Other fields that are edited on this line. */
  also?: readonly string[];
}>();
defineSlots<{ default(given: { id: string; readonly: boolean }): unknown }>();
const form = useForm();
const id = computed(() => `${form.value.kind}-${props.field}`);
const fault = computed(() => faultOf(form.value.faults, [props.field, ...(props.also ?? [])]));
</script>

<template>
  <LedgerField :label="label" :for="id" :fault="fault" v-bind="hint === undefined ? {} : { hint }">
    <slot :id="id" :readonly="form.readonly" />
  </LedgerField>
</template>

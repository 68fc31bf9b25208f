<script setup lang="ts">
import type { Destination } from '@night-bell/core/model/destination';
import DestinationField from './DestinationField.vue';
import FormLine from './FormLine.vue';

/** A line that says where calls go. */
defineProps<{
  field: string;
  label: string;
  /** To those who hear it, where the label alone says too little. */
  said?: string;
  hint?: string;
  /** What it means that nowhere is chosen; left out where somewhere must be. */
  none?: string;
  without?: string;
}>();
const model = defineModel<Destination | null>({ required: true });
</script>

<template>
  <FormLine v-slot="{ id, readonly }" :field="field" :label="label" :hint="hint">
    <DestinationField
      :id="id"
      v-model="model"
      :label="said ?? label"
      :none="none"
      make-queue
      :readonly="readonly"
      v-bind="without === undefined ? {} : { without }"
    />
  </FormLine>
</template>

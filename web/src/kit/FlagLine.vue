<script setup lang="ts">
import { useForm } from './form.ts';

/** Something that is so or not. */
defineProps<{ label: string }>();
const model = defineModel<boolean>({ required: true });
const form = useForm();
</script>

<template>
  <v-checkbox v-model="model" :label="label" :readonly="form.readonly" />
</template>

<script setup lang="ts">
import { computed } from 'vue';
import { faultOf, useForm } from './form.ts';
import Shape from './Shape.vue';

/** Settings that read as a sentence; what is wrong with any of them stands under it. */
const props = defineProps<{ fields: readonly string[] }>();
const form = useForm();
const wrong = computed(() =>
  props.fields.map((field) => faultOf(form.value.faults, [field])).filter((fault) => fault !== undefined),
);
</script>

<template>
  <p class="sentence"><slot /></p>
  <p v-for="fault in wrong" :key="fault" class="fault-text small" role="alert">
    <Shape name="fault" /> {{ fault }}
  </p>
</template>

<style scoped>
.sentence {
  line-height: 28px;
}
</style>

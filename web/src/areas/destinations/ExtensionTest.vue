<script setup lang="ts">
import { useTestCall } from '../../shell/test-call.ts';

/** Tries a call to somewhere that has an extension. */
defineProps<{ extension: string | null }>();
const test = useTestCall();
</script>

<template>
  <section v-if="extension">
    <v-btn @click="test.show(extension)">Test a call to {{ extension }}</v-btn>
  </section>
</template>

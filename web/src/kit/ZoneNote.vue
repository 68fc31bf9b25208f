<script setup lang="ts">
import { computed } from 'vue';
import { useSession } from '../shell/session.ts';

/** Where days and times go by the company's clock, and that is not the reader's: whose clock it is. */
const session = useSession();
const city = computed(() => session.timeZone.split('/').at(-1)!.replaceAll('_', ' '));
</script>

<template>
  <span v-if="session.timeZone !== session.readerZone" class="second small" :title="session.timeZone"
    >by the clock of {{ city }}</span
  >
</template>

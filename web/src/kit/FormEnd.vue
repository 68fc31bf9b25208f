<script setup lang="ts">
import { useSession } from '../shell/session.ts';

/** The end of a form: what is wrong on the whole, then save or leave as it was. `make` begins something new. */
defineProps<{ general: string; saving: boolean; changed: boolean; make?: string | null }>();
defineEmits<{ leave: [] }>();
const session = useSession();
</script>

<template>
  <p v-if="general" class="fault-text" role="alert">{{ general }}</p>
  <div v-if="session.mayEdit && (changed || make != null)" class="buttons">
    <v-btn type="submit" variant="flat" color="primary" :loading="saving">{{ make ?? 'Save' }}</v-btn>
    <v-btn @click="$emit('leave')">{{ make == null ? 'Leave as it was' : 'Leave it' }}</v-btn>
  </div>
</template>

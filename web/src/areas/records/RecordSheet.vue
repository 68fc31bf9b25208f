<script setup lang="ts">
import { ref, watch } from 'vue';
import { api, ApiProblem, ask, type RecordView } from '../../api/client.ts';
import RecordCard from '../../kit/RecordCard.vue';
import Sheet from '../../kit/Sheet.vue';

const props = defineProps<{ id: string }>();
const emit = defineEmits<{ close: [] }>();
const record = ref<RecordView | null>(null);
const problem = ref('');

watch(
  () => props.id,
  async (id) => {
    try {
      record.value = await ask(api.GET('/api/records/{id}', { params: { path: { id } } }));
    } catch (error) {
      problem.value = error instanceof ApiProblem ? error.detail : 'This record cannot be shown.';
    }
  },
  { immediate: true },
);
</script>

<template>
  <Sheet :title="record?.name ?? 'Record'" :second="record?.externalId ?? ''" @close="emit('close')">
    <section v-if="problem">{{ problem }}</section>
    <section v-if="record"><RecordCard :record="record" /></section>
    <section v-if="record">
      <h3>Calls</h3>
      <router-link :to="{ path: '/calls', query: { recordId: record.id } }"
        >Calls with this record</router-link
      >
    </section>
  </Sheet>
</template>

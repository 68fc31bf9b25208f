<script setup lang="ts">
import { ref } from 'vue';
import { api, ask } from '../../api/client.ts';
import type { Figures } from '../../kit/chart.ts';
import type { Stretch } from '../../kit/days.ts';
import StretchChart from '../../kit/StretchChart.vue';
import { timesFigures } from './times.ts';

/** When the calls of a number or a queue come in, by half hours of the day. */
const props = defineProps<{
  numberId?: string;
  queueId?: string;
  goal?: { percent: number; seconds: number };
}>();
const said = ref('');

async function read({ from, to }: Stretch): Promise<Figures | null> {
  const { numberId, queueId } = props;
  const of = {
    ...(numberId === undefined ? {} : { numberId }),
    ...(queueId === undefined ? {} : { queueId }),
  };
  const figures = timesFigures(
    await ask(api.GET('/api/call-times', { params: { query: { from, to, ...of } } })),
    props.goal ?? null,
  );
  said.value = figures?.caption ?? '';
  return figures;
}
</script>

<template>
  <section>
    <StretchChart
      :read="read"
      :of="`${numberId} ${queueId}`"
      label="Days of the calls"
      none="No call came in on these days."
    />
    <p class="second small said">{{ said }}</p>
  </section>
</template>

<style scoped>
.said {
  margin-top: 8px;
}
</style>

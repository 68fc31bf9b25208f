<script setup lang="ts">
import { ref } from 'vue';
import { api, ask } from '../../api/client.ts';
import type { Figures } from '../../kit/chart.ts';
import type { Stretch } from '../../kit/days.ts';
import StretchChart from '../../kit/StretchChart.vue';
import { trendFigures } from './trend.ts';

/** How a source did, by days or weeks: calls, answered, good, and what a good call cost. */
const props = defineProps<{ sourceId: string }>();
const by = ref<'day' | 'week'>('day');

async function read({ from, to }: Stretch): Promise<Figures | null> {
  const params = { path: { id: props.sourceId }, query: { from, to, by: by.value } };
  const steps = await ask(api.GET('/api/sources/{id}/trend', { params }));
  return steps.every(({ calls }) => calls === 0) ? null : trendFigures(steps, by.value);
}
</script>

<template>
  <section>
    <StretchChart
      :read="read"
      :of="`${sourceId} ${by}`"
      label="Days of the trend"
      none="No call came from this source in these days."
    >
      <select v-model="by" aria-label="By days or weeks">
        <option value="day">by day</option>
        <option value="week">by week</option>
      </select>
    </StretchChart>
  </section>
</template>

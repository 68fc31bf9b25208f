<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { api, ask } from '../../api/client.ts';
import type { Figures } from '../../kit/chart.ts';
import type { Stretch } from '../../kit/days.ts';
import StretchField from '../../kit/StretchField.vue';
import { dayOf } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { trendFigures, type TrendStep } from './trend.ts';

/** How a source did, by days or weeks: calls, answered, good, and what a good call cost. */
const props = defineProps<{ sourceId: string }>();
const FigureChart = defineAsyncComponent(() => import('../../kit/FigureChart.vue'));
const live = useLive();
const session = useSession();
const notices = useNotices();
const today = computed(() => dayOf(live.now, session.timeZone));
const stretch = ref<Stretch>({ from: dayOf(live.now - 29 * 86_400_000, session.timeZone), to: today.value });
const by = ref<'day' | 'week'>('day');
const steps = ref<TrendStep[] | null>(null);
const figures = computed<Figures | null>(() =>
  steps.value === null ? null : trendFigures(steps.value, by.value),
);

watch(
  [() => props.sourceId, stretch, by],
  async () => {
    const { from, to } = stretch.value;
    if (from === '' || to === '') return;
    const params = { path: { id: props.sourceId }, query: { from, to, by: by.value } };
    try {
      steps.value = await ask(api.GET('/api/sources/{id}/trend', { params }));
    } catch (error) {
      notices.fail(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <section>
    <p class="line">
      <StretchField v-model="stretch" label="Days of the trend" :today="today" toward="past" />
      <select v-model="by" aria-label="By days or weeks">
        <option value="day">by day</option>
        <option value="week">by week</option>
      </select>
    </p>
    <p v-if="steps !== null && steps.every(({ calls }) => calls === 0)" class="second">
      No call came from this source in these days.
    </p>
    <FigureChart v-else-if="figures" :figures="figures" />
  </section>
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
  margin-bottom: 10px;
}
</style>

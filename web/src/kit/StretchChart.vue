<script setup lang="ts">
import { computed, defineAsyncComponent, ref, shallowRef, watch } from 'vue';
import { useLive } from '../shell/live.ts';
import { useNotices } from '../shell/notices.ts';
import { useSession } from '../shell/session.ts';
import type { Figures } from './chart.ts';
import type { Stretch } from './days.ts';
import StretchField from './StretchField.vue';
import ZoneNote from './ZoneNote.vue';
import { dayOf } from './time.ts';

/** Figures over some days, which are chosen here: at first the last 30. */
const props = defineProps<{
  /** Null where there is nothing to draw. */
  read: (stretch: Stretch) => Promise<Figures | null>;
  /** What it is read anew by. */
  of: string;
  /** Said where there is nothing to draw. */
  none: string;
  label: string;
}>();
const FigureChart = defineAsyncComponent(() => import('./FigureChart.vue'));
const live = useLive();
const session = useSession();
const notices = useNotices();
const today = computed(() => dayOf(live.now, session.timeZone));
const stretch = ref<Stretch>({ from: dayOf(live.now - 29 * 86_400_000, session.timeZone), to: today.value });
const figures = shallowRef<Figures | null>(null);
const isRead = ref(false);

watch(
  [() => props.of, stretch],
  async () => {
    const asked = stretch.value;
    if (asked.from === '' || asked.to === '') return;
    try {
      const answer = await props.read(asked);
      if (asked !== stretch.value) return;
      figures.value = answer;
      isRead.value = true;
    } catch (error) {
      notices.fail(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <p class="line">
    <StretchField v-model="stretch" :label="label" :today="today" toward="past" />
    <ZoneNote />
    <slot />
  </p>
  <p v-if="isRead && figures === null" class="second">{{ none }}</p>
  <FigureChart v-else-if="figures" :figures="figures" />
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
  margin-bottom: 10px;
}
</style>

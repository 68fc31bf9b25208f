<script setup lang="ts">
import { locale } from './locale.ts';
import { computed } from 'vue';
import type { JobView } from '@night-bell/core/contracts/jobs';
import Shape from './Shape.vue';

/** How far a job is, with a way to stop it; and what became of it. */
const props = defineProps<{ job: JobView }>();
const emit = defineEmits<{ stop: []; forget: [] }>();
const going = computed(() => props.job.endedAt === null);
const share = computed(() => {
  const { done, total } = props.job;
  return total === null || total === 0 ? null : Math.round((100 * done) / total);
});
const count = (value: number) => value.toLocaleString(locale.value);
const soFar = computed(() => {
  const { state, done, total } = props.job;
  if (state === 'waiting') return 'waits for its turn';
  if (props.job.doing !== null) return props.job.doing;
  return total === null ? count(done) : `${count(done)} of ${count(total)}`;
});
</script>

<template>
  <div class="job" role="status">
    <template v-if="going">
      <span>{{ job.title }}</span>
      <span
        class="way"
        role="progressbar"
        :aria-label="job.title"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-valuenow="share ?? undefined"
        ><span :style="{ width: `${share ?? 0}%` }"></span
      ></span>
      <span class="mono second">{{ soFar }}</span>
      <v-btn size="small" @click="emit('stop')">Stop</v-btn>
    </template>
    <template v-else>
      <Shape v-if="job.state === 'failed'" name="fault" />
      <span :class="{ 'fault-text': job.state === 'failed' }">{{ job.title }}: {{ job.outcome }}</span>
      <button type="button" class="away" aria-label="Put this away" @click="emit('forget')">×</button>
    </template>
  </div>
</template>

<style scoped>
.job {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule);
  flex: none;
}
.way {
  flex: 1 1 120px;
  max-width: 180px;
  height: 6px;
  background: var(--rule);
}
.way > span {
  display: block;
  height: 100%;
  background: var(--brass);
  transition: width 0.2s;
}
.away {
  border: 0;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  margin-left: auto;
}
@media (prefers-reduced-motion: reduce) {
  .way > span {
    transition: none;
  }
}
</style>

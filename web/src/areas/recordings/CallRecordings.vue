<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import type { RecordingView } from '@night-bell/core/contracts/recordings';
import { span } from '@night-bell/core/story/span';
import { send } from '../../api/items.ts';
import SoundPlayer from '../../kit/SoundPlayer.vue';
import { useClock } from '../../kit/time.ts';

/** The talks of a call that were recorded, each with whose it was; heard by those who may. */
const props = defineProps<{ callId: string; inProgress: boolean }>();
const { clockSeconds } = useClock();
const againMs = 2_000;
/** A sound comes a moment after its talk; one that has not come by then may never. */
const waitsMs = 60_000;
const comes = ({ at, seconds, sound, mayHear }: RecordingView) =>
  mayHear && sound === null && Date.now() - (at + seconds * 1_000) < waitsMs;
const query = useQuery({
  queryKey: computed(() => ['recordings', props.callId] as const),
  queryFn: ({ queryKey }) => send<RecordingView[]>('GET', `/api/calls/${queryKey[1]}/recordings`),
  refetchInterval: ({ state }) => ((state.data ?? []).some(comes) ? againMs : false),
  staleTime: 5_000,
  retry: false,
});
watch(
  () => props.inProgress,
  () => void query.refetch(),
);
const talks = computed(() => query.data.value ?? []);
const length = ({ seconds, pausedSeconds }: RecordingView) =>
  `${span(seconds * 1_000)}${pausedSeconds === 0 ? '' : `, ${span(pausedSeconds * 1_000)} left out`}`;
</script>

<template>
  <section v-if="talks.length > 0" aria-label="Recorded talks" class="strip">
    <div v-for="talk in talks" :key="talk.part" class="talk">
      <p>
        <span class="second">Recorded</span> <b>{{ talk.personName }}</b>,
        <span class="mono second">{{ clockSeconds(talk.at) }}, {{ length(talk) }}</span>
      </p>
      <SoundPlayer
        v-if="talk.sound"
        :src="`/api/calls/${callId}/recordings/${talk.part}/sound`"
        :peaks="talk.sound.peaks"
        :seconds="talk.sound.seconds"
        :label="`talk with ${talk.personName}`"
      />
      <p v-else class="second small">
        {{
          !talk.mayHear
            ? 'Heard by others. Ask a supervisor.'
            : comes(talk)
              ? 'Its sound is on its way.'
              : 'Its sound never came.'
        }}
      </p>
    </div>
  </section>
</template>

<style scoped>
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 40px;
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule2);
}
.talk {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
}
</style>

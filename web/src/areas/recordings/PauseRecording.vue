<script setup lang="ts">
import { computed } from 'vue';
import type { CallLive } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';

/** That a talk is recorded, and the button that pauses it, for those who may. */
const props = defineProps<{ call: CallLive }>();
const session = useSession();
const notices = useNotices();
const recording = computed(() => props.call.recording);
const isMine = computed(() => props.call.personId === session.view?.person?.id);
const mayPause = computed(() => {
  const may = recording.value?.mayPause;
  if (may === undefined || may === 'nobody') return false;
  return isMine.value ? may === 'talker' : session.mayOperate;
});
const paused = computed(() => recording.value?.state === 'paused');

async function set(to: boolean): Promise<void> {
  await send('POST', `/api/calls/${props.call.callId}/recording`, { body: { paused: to } }).catch(
    notices.fail,
  );
}
</script>

<template>
  <p v-if="recording" class="recording">
    <svg width="12" height="12" aria-hidden="true">
      <circle cx="6" cy="6" r="4" :class="{ on: recording.state === 'on' }" />
    </svg>
    <span role="status">{{
      recording.state === 'on'
        ? 'Recorded'
        : recording.state === 'held'
          ? 'Not recorded while on hold'
          : 'Recording paused'
    }}</span>
    <button v-if="mayPause" type="button" class="link" @click="set(!paused)">
      {{ paused ? 'Go on recording' : 'Pause' }}
    </button>
  </p>
</template>

<style scoped>
.recording {
  display: flex;
  gap: 6px;
  align-items: center;
}
circle {
  fill: none;
  stroke: var(--oxide);
  stroke-width: 1.5;
}
circle.on {
  fill: var(--oxide);
}
.link {
  border: 0;
  background: none;
  color: var(--brass);
  cursor: pointer;
  padding: 2px 4px;
}
</style>

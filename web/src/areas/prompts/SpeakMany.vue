<script setup lang="ts">
import { computed } from 'vue';
import JobLine from '../../kit/JobLine.vue';
import { useCollection } from '../../shell/collection.ts';
import { useJob } from '../../shell/job.ts';
import { useSession } from '../../shell/session.ts';
import { needsVoice } from '@night-bell/core/sound/needs-voice';
import { promptApi } from './words.ts';

/** Every prompt whose sound is missing, or says other words than are written, spoken in one go. */
const { items } = useCollection(promptApi);
const session = useSession();
const { job, going, begin, stop, forget } = useJob('speakPrompts');
const silent = computed(() => (items.value ?? []).filter(needsVoice).length);
const speak = (publish: boolean) => begin('/api/prompts/speak', { body: { publish } });
</script>

<template>
  <JobLine v-if="job" :job="job" @stop="stop" @forget="forget" />
  <div v-if="session.mayEdit && !going && silent > 0" class="silent">
    <span>{{
      silent === 1
        ? '1 prompt has no sound of what is written.'
        : `${silent} prompts have no sound of what is written.`
    }}</span>
    <button type="button" class="link" @click="speak(false)">
      {{ silent === 1 ? 'Speak it' : 'Speak them' }}
    </button>
    <button type="button" class="link" @click="speak(true)">Speak and publish</button>
  </div>
</template>

<style scoped>
.silent {
  display: flex;
  gap: 16px;
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule);
  flex: none;
}
</style>

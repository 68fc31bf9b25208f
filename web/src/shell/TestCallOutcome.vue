<script setup lang="ts">
import { computed } from 'vue';
import type { CallResult } from '@night-bell/core/story/facts';
import { span } from '@night-bell/core/story/span';
import { resultOf, resultWords } from '@night-bell/core/story/words';
import Shape from '../kit/Shape.vue';
import { useTestCall } from './test-call.ts';

/** What the test call comes to, in a line that is read out. */
const test = useTestCall();
const lost = computed(
  () =>
    test.answer?.outcome.kind === 'ended' &&
    ['turnedAway', 'unroutable'].includes(test.answer.outcome.result ?? ''),
);
</script>

<template>
  <p class="outcome" role="status" aria-live="polite">
    <template v-if="test.fault"><Shape name="fault" /> {{ test.fault }}</template>
    <template v-else-if="test.answer">
      <template v-if="test.answer.outcome.kind === 'answered'">
        <b>{{ test.answer.outcome.name }}</b> would answer at
        <b class="mono">{{ span(test.answer.outcome.afterMs) }}</b>
      </template>
      <template v-else-if="['forwarded', 'joinedRoom', 'faxTone'].includes(test.answer.outcome.kind)">
        {{ test.answer.outcome.kind === 'forwarded' ? 'Sent on to' : 'Into' }}
        <b>{{ test.answer.outcome.name }}</b> at
        <b class="mono">{{ span(test.answer.outcome.afterMs) }}</b>
      </template>
      <template v-else-if="test.answer.outcome.kind === 'voicemail'">
        <b>{{ test.answer.outcome.name }}</b> at
        <b class="mono">{{ span(test.answer.outcome.afterMs) }}</b>
      </template>
      <template v-else-if="lost">
        <Shape name="fault" />
        {{ resultWords[test.answer.outcome.result === 'unroutable' ? 'unroutable' : 'turnedAway'] }} at
        <span class="mono">{{ span(test.answer.outcome.afterMs) }}</span>
      </template>
      <template v-else-if="test.answer.outcome.kind === 'ended'">
        {{ resultOf(test.answer.outcome.result as CallResult, 'inbound') }} at
        <span class="mono">{{ span(test.answer.outcome.afterMs) }}</span>
      </template>
      <template v-else-if="test.hand">Played by hand, {{ span(test.hand.untilMs) }}</template>
      <template v-else>Still waiting after {{ span(test.answer.outcome.afterMs) }}</template>
    </template>
  </p>
</template>

<style scoped>
.outcome {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  min-width: 120px;
  color: #b4c0bc;
}
.outcome b {
  color: #f1f3ea;
}
</style>

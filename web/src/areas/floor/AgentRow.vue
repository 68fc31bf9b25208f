<script setup lang="ts">
import type { AgentLive } from '../../api/client.ts';
import Shape from '../../kit/Shape.vue';
import { span } from '@night-bell/core/story/span';
import { reachedWords } from '@night-bell/core/story/words';
import { agentWords } from '../../kit/words.ts';

/** One agent on the floor: place in line, state, since when, and what reaches them where that is unusual. */
const props = defineProps<{
  person: { name: string };
  agent: AgentLive;
  place: number | null;
  now: number;
}>();
const emit = defineEmits<{ press: [] }>();

function word(): string {
  const { agent } = props;
  if (agent.state !== 'signedOut' && agent.reachedBy === null) return 'Cannot be rung';
  if (agent.backOffUntil !== null && agent.state === 'available') return 'Rests';
  return agent.state === 'away' && agent.awayReason ? agent.awayReason : agentWords[agent.state];
}
function reached(): string {
  const by = props.agent.reachedBy;
  return by === null || by === 'softphone' ? '' : reachedWords[by];
}
const stuck = () => props.agent.state !== 'signedOut' && props.agent.reachedBy === null;
</script>

<template>
  <button type="button" @click="emit('press')">
    <span class="mono second place">{{ place ?? '' }}</span>
    <Shape :name="stuck() ? 'fault' : agent.state" />
    <span class="name" :title="reached()"
      >{{ person.name }}
      <Shape v-if="agent.reachedBy === 'outside' || agent.reachedBy === 'openLine'" name="outside"
    /></span>
    <span class="word" :class="stuck() ? 'stuck' : agent.state">{{ word() }}</span>
    <span class="mono time">{{ agent.state === 'signedOut' ? '' : span(now - agent.since) }}</span>
  </button>
</template>

<style scoped>
button {
  width: 100%;
  display: grid;
  grid-template-columns: 14px 12px 1fr auto 44px;
  gap: 5px;
  align-items: center;
  min-height: 25px;
  padding: 0 12px 0 8px;
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
  font: 13px/18px var(--sans);
}
button:hover {
  background: color-mix(in srgb, var(--sel) 50%, transparent);
}
.place,
.time {
  text-align: right;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.word {
  color: var(--ink2);
  max-width: 92px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.word.ringing {
  color: var(--brass);
}
.word.talking,
.word.wrappingUp {
  color: var(--teal);
}
.word.stuck {
  color: var(--oxide);
}
</style>

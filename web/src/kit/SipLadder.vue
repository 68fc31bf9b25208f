<script setup lang="ts">
import { ref } from 'vue';
import { useClock } from './time.ts';

export interface LadderMessage {
  at: number;
  from: 'there' | 'here';
  start: string;
  text: string;
}

/** SIP messages between two sides, as they passed; a press opens one. */
defineProps<{ messages: LadderMessage[]; there: string }>();
const open = ref<number | null>(null);

const { clockSeconds } = useClock();

/** A request by its method, a response by its status and words. */
function words(start: string): string {
  return start.startsWith('SIP/2.0 ') ? start.slice(8) : start.split(' ')[0]!;
}
const bad = (start: string) => /^SIP\/2\.0 (?!401|407)[4-6]/.test(start);
</script>

<template>
  <div class="ladder">
    <div class="ends small second" aria-hidden="true">
      <span></span><span>{{ there }}</span
      ><span>Night Bell</span>
    </div>
    <ol>
      <li v-for="(message, index) in messages" :key="`${message.at} ${index}`">
        <button
          type="button"
          :aria-expanded="open === index"
          :class="[message.from, { bad: bad(message.start) }]"
          @click="open = open === index ? null : index"
        >
          <span class="mono second">{{ clockSeconds(message.at) }}</span>
          <i class="rail"></i>
          <span class="arrow">
            <span class="word">{{ words(message.start) }}</span>
            <svg viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden="true"><path d="M0 3H100" /></svg>
            <i class="tip"></i>
          </span>
          <i class="rail"></i>
        </button>
        <pre v-if="open === index" class="mono">{{ message.text.trim() }}</pre>
      </li>
    </ol>
    <p v-if="messages.length === 0" class="second">Nothing has passed since the server started.</p>
  </div>
</template>

<style scoped>
.ends,
button {
  display: grid;
  grid-template-columns: 62px 14px 1fr 14px;
}
.ends {
  grid-template-columns: 62px 1fr auto;
  white-space: nowrap;
}
button {
  width: 100%;
  height: 30px;
  align-items: stretch;
  border: 0;
  background: none;
  color: inherit;
  padding: 0;
  cursor: pointer;
  text-align: left;
}
button:hover {
  background: var(--wash);
}
button > .mono {
  align-self: end;
  line-height: 14px;
}
.rail {
  justify-self: center;
  width: 2px;
  background: var(--rule2);
}
.arrow {
  position: relative;
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  font-size: 12px;
}
.word {
  text-align: center;
  line-height: 16px;
}
svg {
  height: 6px;
  width: 100%;
}
path {
  stroke: var(--ink2);
  stroke-width: 1.5;
  fill: none;
  vector-effect: non-scaling-stroke;
}
.here path {
  stroke-dasharray: 5 3;
}
.tip {
  position: absolute;
  bottom: -1px;
  border: 4px solid transparent;
}
.there .tip {
  right: -2px;
  border-left: 7px solid var(--ink2);
  border-right: 0;
}
.here .tip {
  left: -2px;
  border-right: 7px solid var(--ink2);
  border-left: 0;
}
.bad .word {
  color: var(--oxide);
  font-weight: 600;
}
.bad path {
  stroke: var(--oxide);
}
.bad .tip {
  border-right-color: var(--oxide);
}
pre {
  margin: 4px 0 8px;
  padding: 6px 8px;
  background: var(--wash);
  overflow: auto;
  font-size: 11px;
  line-height: 15px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>

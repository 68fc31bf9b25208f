<script setup lang="ts">
import { computed, useId } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import type { CallLive } from '../../api/client.ts';
import { span } from '@night-bell/core/story/span';

/** Callers hang from the queue's beam, longest at the left; who waits long gets a hatched rope. */
const props = defineProps<{ calls: CallLive[]; now: number; limit: number | null }>();
const id = useId();

const perSecond = 1.45;
const longest = 110;
const gap = 33;
/** Beyond this a wait is too long to anybody; half of the queue's own limit, when it has one. */
const patience = computed(() => (props.limit === null ? 30 : Math.min(60, Math.max(20, props.limit / 4))));

const hung = computed(() =>
  props.calls.slice(0, 8).map((call, index) => {
    const seconds = (props.now - call.arrivedAt) / 1000;
    const length = Math.min(longest, 8 + seconds * perSecond);
    const late = seconds > patience.value;
    const goal = Math.min(longest, 8 + patience.value * perSecond);
    return { call, x: 16 + index * gap, length, late, goal, text: span(seconds * 1000) };
  }),
);
const height = computed(() => Math.max(56, ...hung.value.map((each) => each.length + 30)));
const goalY = computed(() => 12 + Math.min(longest, 8 + patience.value * perSecond));
</script>

<template>
  <div class="beam">
    <svg :height="Math.max(height, goalY + 20)" width="100%" aria-hidden="true">
      <defs>
        <pattern
          :id="`${id}-hemp`"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(35)"
        >
          <rect width="6" height="6" fill="var(--rope-l)" />
          <rect width="3" height="6" fill="var(--rope-d)" />
        </pattern>
        <pattern
          :id="`${id}-late`"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="2" height="5" fill="var(--oxide)" />
        </pattern>
      </defs>
      <rect x="12" y="8" width="calc(100% - 24px)" height="4" fill="var(--rule2)" />
      <line x1="12" x2="calc(100% - 12px)" :y1="goalY" :y2="goalY" class="goal" />
      <text x="100%" dx="-12" :y="goalY + 13" text-anchor="end" class="caption">
        {{ span(patience * 1000) }}
      </text>
      <text v-if="calls.length === 0" x="16" y="32" class="nobody">Nobody is waiting</text>
      <g v-for="each in hung" :key="each.call.callId">
        <rect
          :x="each.x - 3"
          y="12"
          width="6"
          :height="each.late ? each.goal : each.length"
          :fill="`url(#${id}-hemp)`"
        />
        <rect
          v-if="each.late"
          :x="each.x - 3"
          :y="12 + each.goal"
          width="6"
          :height="each.length - each.goal"
          :fill="`url(#${id}-late)`"
        />
        <circle
          v-if="each.call.stage === 'ringing'"
          :cx="each.x"
          :cy="16 + each.length"
          r="5"
          class="ringing"
        />
        <circle v-else :cx="each.x" :cy="15 + each.length" r="4.500" :class="each.late ? 'late' : 'knot'" />
        <text :x="each.x" :y="32 + each.length" text-anchor="middle" :class="each.late ? 'late' : ''">
          {{ each.text }}
        </text>
      </g>
      <text v-if="calls.length > 8" :x="16 + 8 * gap" y="30" class="caption">+{{ calls.length - 8 }}</text>
    </svg>
    <ul class="heard">
      <li v-for="call in calls" :key="call.callId">
        {{ formatNumber(call.from) }} waits {{ span(now - call.arrivedAt) }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.beam {
  min-height: 96px;
}
text {
  font: 11px/14px var(--mono);
  fill: var(--ink);
}
.caption {
  fill: var(--ink2);
}
.nobody {
  font: 12px/16px var(--sans);
  fill: var(--ink2);
}
.goal {
  stroke: var(--rule2);
  stroke-dasharray: 2 3;
}
.knot {
  fill: var(--rope-d);
}
.late {
  fill: var(--oxide);
}
.ringing {
  fill: none;
  stroke: var(--brass);
  stroke-width: 2;
}
.heard {
  position: absolute;
  clip-path: inset(50%);
}
</style>

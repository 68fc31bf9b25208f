<script setup lang="ts">
import { computed } from 'vue';
import type { StepKindName } from '@night-bell/core/model/plan';

/** The knot of one step on the rope of a plan: a decision, a ring, a wait, an end, or something that is heard. */
const props = defineProps<{ kind: StepKindName; rope: string; first: boolean; last: boolean }>();
const mark = computed(() => {
  switch (props.kind) {
    case 'hours':
    case 'keys':
    case 'extension':
      return 'hitch';
    case 'ring':
    case 'ringSeveral':
    case 'otherPhones':
    case 'outside':
      return 'ring';
    case 'queue':
      return 'coil';
    case 'voicemail':
    case 'fax':
    case 'room':
    case 'end':
      return 'loop';
    default:
      return 'knot';
  }
});
</script>

<template>
  <svg class="mark" width="56" height="100%" aria-hidden="true">
    <rect
      x="25.5"
      :y="first ? 18 : 0"
      width="5"
      :height="last ? (first ? 0 : 18) : '100%'"
      :fill="`url(#${rope}-rope)`"
    />
    <g transform="translate(28 18)" stroke="var(--wi-d)" fill="none" stroke-width="2">
      <circle v-if="mark === 'knot'" r="5" fill="var(--wi-d)" stroke="none" />
      <path v-else-if="mark === 'hitch'" d="M0-7.500 7.500 0 0 7.500-7.500 0z" class="ground" />
      <g v-else-if="mark === 'ring'">
        <circle r="6.500" class="ground" />
        <circle r="2.200" fill="var(--wi-d)" stroke="none" />
      </g>
      <g v-else-if="mark === 'coil'" stroke-width="2.600">
        <rect x="-8" y="-10" width="16" height="20" class="ground" stroke="none" />
        <path v-for="wrap in 5" :key="wrap" :d="`M-8 ${-12 + wrap * 4.6}l16-5`" />
      </g>
      <circle v-else r="5.500" class="ground" stroke-width="2.400" />
    </g>
  </svg>
</template>

<style scoped>
.mark {
  position: absolute;
  inset: 0;
}
.ground {
  fill: var(--page);
}
</style>

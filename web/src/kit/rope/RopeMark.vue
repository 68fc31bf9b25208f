<script setup lang="ts">
import { computed } from 'vue';
import type { RopeStep } from '@night-bell/core/story/step';

/** One knot, drawn around its own origin. `length` is what a coil or a sally takes along the rope. */
const props = defineProps<{
  step: RopeStep;
  id: string;
  whatIf: boolean;
  vertical: boolean;
  length: number;
  ground: string;
}>();

const ink = computed(() => (props.whatIf ? 'var(--wi-d)' : 'var(--rope-d)'));
const wraps = computed(() =>
  Math.max(2, Math.min(12, Math.floor(props.length / 3.8), Math.round(props.step.ms / 5_000))),
);
</script>

<template>
  <g :stroke="ink" fill="none" stroke-width="2">
    <circle v-if="step.mark === 'knot'" r="5" :fill="ink" stroke="none" />
    <path v-else-if="step.mark === 'hitch'" d="M0-7.500 7.500 0 0 7.500-7.500 0z" :fill="ground" />
    <g v-else-if="step.mark === 'coil'" :transform="vertical ? '' : 'rotate(-90)'" stroke-width="2.600">
      <path
        v-for="wrap in wraps"
        :key="wrap"
        :d="`M-8 ${4 + (length * (wrap - 0.5)) / wraps - length / 2}l16-5`"
      />
    </g>
    <g v-else-if="step.mark === 'missed'"><circle r="6.500" :fill="ground" /><path d="M-4 4 4-4" /></g>
    <g v-else-if="step.mark === 'lifted'"
      ><circle r="6.500" :fill="ground" /><circle r="2.200" :fill="ink" stroke="none"
    /></g>
    <rect
      v-else-if="step.mark === 'sally'"
      :x="vertical ? -8 : -length / 2"
      :y="vertical ? -length / 2 : -8"
      :width="vertical ? 16 : length"
      :height="vertical ? length : 16"
      rx="7.500"
      :fill="`url(#${id}-sally)`"
      stroke="var(--sal-a)"
      stroke-width="1.500"
    />
    <circle v-else-if="step.mark === 'loop'" r="5.500" :fill="ground" stroke-width="2.400" />
    <path
      v-else-if="step.mark === 'fray'"
      :transform="vertical ? 'rotate(90)' : ''"
      d="M-3 0 9-6M-3 0 11 0M-3 0 9 6"
      stroke="var(--oxide)"
      stroke-width="1.800"
    />
    <circle v-else-if="step.mark === 'now'" r="3" :fill="ground" stroke-dasharray="2 1.500" />
  </g>
</template>

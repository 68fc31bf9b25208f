<script setup lang="ts">
import { computed } from 'vue';
import type { StepKindName } from '@night-bell/core/model/plan';
import { stepShape } from './step-shape.ts';

/** The knot of one kind of step, drawn around its middle: a decision, a ring, a wait, an end, or something heard. */
const props = defineProps<{ kind: StepKindName; color: string; ground: string }>();
const shape = computed(() => stepShape(props.kind));
</script>

<template>
  <g :stroke="color" fill="none" stroke-width="2">
    <circle v-if="shape === 'knot'" r="5" :fill="color" stroke="none" />
    <path v-else-if="shape === 'hitch'" d="M0-7.500 7.500 0 0 7.500-7.500 0z" :fill="ground" />
    <template v-else-if="shape === 'ring'">
      <circle r="6.500" :fill="ground" />
      <circle r="2.200" :fill="color" stroke="none" />
    </template>
    <g v-else-if="shape === 'coil'" stroke-width="2.600">
      <rect x="-8" y="-10" width="16" height="20" :fill="ground" stroke="none" />
      <path v-for="wrap in 5" :key="wrap" :d="`M-8 ${-12 + wrap * 4.6}l16-5`" />
    </g>
    <circle v-else r="5.500" :fill="ground" stroke-width="2.400" />
  </g>
</template>

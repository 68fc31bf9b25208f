<script setup lang="ts">
import { computed } from 'vue';
import type { CompiledStep } from '@night-bell/core/model/plan';
import type { PlacedStep } from '@night-bell/core/plan/layout';
import PlanGlyph from '../PlanGlyph.vue';
import { pointOf } from './geometry.ts';

/** One step of a picture: its knot, what it is about above the rope, what it does below. */
const props = defineProps<{
  placed: PlacedStep;
  step: CompiledStep;
  words: { name: string; does: string };
  number: string;
  /** The worst finding of the step. */
  grade: 'fault' | 'doubt' | null;
  chosen: boolean;
  marked: boolean;
  found: boolean;
  lit: boolean;
  /** Something hangs from it: its rope goes down past the words. */
  hangs: boolean;
  /** Against the version beside. */
  difference: string;
}>();
const width = computed(() => Math.max(56, props.words.name.length * 7.4 + 14));
</script>

<template>
  <g
    class="step"
    :class="{ chosen, marked, lit, lost: placed.lost }"
    :transform="`translate(${pointOf(placed).x} ${pointOf(placed).y})`"
    data-carries
  >
    <rect class="place" x="-16" y="-32" :width="width + 16" height="60" />
    <path
      v-if="chosen"
      class="corners"
      :d="`M-16-23v-9h9M${width - 9}-32h9v9M${width} 20v9h-9M-7 29h-9v-9`"
    />
    <PlanGlyph
      :kind="step.kind"
      :color="lit ? 'var(--plum)' : 'var(--rope-d)'"
      :ground="marked ? 'var(--sel)' : 'var(--page)'"
    />
    <path v-if="grade === 'fault'" class="fault" d="M-8-25l5 9h-10z" />
    <path v-else-if="grade === 'doubt'" class="doubt" d="M-8-25l5 9h-10z" />
    <text :x="grade === null ? -8 : 2" y="-15" class="name" :class="{ underlined: found }">{{
      words.name
    }}</text>
    <text :x="hangs ? 10 : -8" y="23" class="does">
      <tspan class="number">{{ number }}</tspan> {{ words.does }}
      <tspan v-if="difference" class="differs">{{ difference }}</tspan>
    </text>
  </g>
</template>

<style scoped>
.step {
  cursor: default;
}
.place {
  fill: transparent;
}
.marked .place {
  fill: var(--sel);
}
.step:hover .place {
  fill: var(--wash);
}
.corners {
  fill: none;
  stroke: var(--brass);
  stroke-width: 2.5;
}
.step.onto .place {
  stroke: var(--brass);
  stroke-width: 2;
}
.name {
  font: 600 13px/18px var(--sans);
  fill: var(--ink);
}
.underlined {
  text-decoration: underline;
  text-decoration-color: var(--brass);
  text-decoration-thickness: 2px;
}
.lost .name {
  fill: var(--ink2);
}
.does {
  font: 12px/16px var(--sans);
  fill: var(--ink2);
}
.number {
  font-family: var(--mono);
}
.lit .name,
.differs {
  fill: var(--plum);
}
.fault {
  fill: var(--oxide);
}
.doubt {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.4;
}
</style>

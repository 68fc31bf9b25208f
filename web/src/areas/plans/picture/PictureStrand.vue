<script setup lang="ts">
import { computed } from 'vue';
import { type Strand, wayKey } from '@night-bell/core/plan/layout';
import { shortened } from '../../../kit/shortened.ts';
import { columnWidth, type DrawnStrand } from './geometry.ts';
import { keyOf } from './step-words.ts';

/** One way of a picture: its rope, the key or words it is taken by, and what is at its end where no step is. */
const props = defineProps<{
  drawn: DrawnStrand;
  rope: string;
  lit: boolean;
  numberOf: (stepId: string) => string;
  /** The step it goes straight on from has other ways: then it is said by which this goes. */
  said: boolean;
}>();
defineEmits<{ fold: []; go: [stepId: string]; take: [event: PointerEvent] }>();

const way = computed(() => props.drawn.strand);
const key = computed(() => (way.value.place === 'start' ? null : keyOf(way.value.place.exit)));
/** What a caller pressed is written with the key; that key 4 is called “key 4” is not. */
const label = computed(() => (way.value.label === `key ${key.value}` ? '' : way.value.label));
/** Along a row of its own it is written above the rope; straight on from its step, where the next step's name stands, below. */
const wordsAt = computed(() => {
  const { words, straight } = props.drawn;
  return straight
    ? { x: words.x + columnWidth - 34, y: words.y + 18, 'text-anchor': 'end' as const }
    : { x: words.x + (key.value === null ? 0 : 24), y: words.y - 8, 'text-anchor': 'start' as const };
});
const isEnd = computed(() => !['leads', 'joins'].includes(way.value.kind));
const isLabelled = computed(
  () => label.value !== '' && (!props.drawn.straight || (props.said && !isEnd.value)),
);
/** What stands at the end of a way that leads to no step drawn here. */
const endWords = computed(() => {
  const what = endOf(way.value);
  return props.drawn.straight && props.said ? `${shortened(label.value, 14)}: ${what}` : what;
});
function endOf(strand: Strand): string {
  if (strand.kind === 'open') return 'leads nowhere';
  if (strand.kind === 'written') return `on to ${props.numberOf(strand.target)}`;
  if (strand.kind !== 'folded') return '';
  return strand.steps === 1 ? '1 step folded' : `${strand.steps} steps folded`;
}
</script>

<template>
  <g class="strand" :class="[way.kind, { lit }]" :data-way="wayKey(way.place)">
    <path class="rope" :d="drawn.path" :stroke="`url(#${rope}-rope)`" />
    <path class="over" :d="drawn.path" />
    <g v-if="key !== null" class="key" :transform="`translate(${drawn.words.x + 6} ${drawn.words.y})`">
      <rect x="-2" y="-9" width="18" height="18" rx="2" />
      <text x="7" y="4" text-anchor="middle">{{ key }}</text>
    </g>
    <text v-if="isLabelled" v-bind="wordsAt" class="label"
      >{{ shortened(label, drawn.straight ? 14 : 20) }}<title>{{ label }}</title></text
    >
    <template v-if="way.kind === 'open'">
      <circle
        class="loose"
        data-carries
        :cx="drawn.end.x + 5"
        :cy="drawn.end.y"
        r="5"
        @pointerdown.stop="$emit('take', $event)"
      />
      <text :x="drawn.end.x + 16" :y="drawn.end.y + 4" class="nowhere">{{ endWords }}</text>
    </template>
    <text
      v-else-if="isEnd"
      class="elsewhere"
      data-carries
      :x="drawn.end.x + 6"
      :y="drawn.end.y + 4"
      @click.stop="way.kind === 'written' ? $emit('go', way.target) : $emit('fold')"
      @pointerdown.stop="way.kind === 'written' && $emit('take', $event)"
      >{{ endWords }}</text
    >
  </g>
</template>

<style scoped>
path {
  fill: none;
}
.rope {
  stroke-width: 4;
}
.over {
  stroke: transparent;
  stroke-width: 6;
}
.lit .over {
  stroke: var(--plum);
  stroke-width: 6;
}
.strand.onto .over {
  stroke: var(--brass);
  stroke-width: 8;
  stroke-opacity: 0.7;
}
.open .rope {
  stroke: var(--oxide);
  stroke-width: 1.4;
  stroke-dasharray: 3 2.4;
}
.written .rope,
.folded .rope {
  stroke-width: 3;
}
.label {
  font: 12px/16px var(--sans);
  fill: var(--ink2);
}
.lit .label {
  fill: var(--plum);
}
.key rect {
  fill: var(--sheet);
  stroke: var(--rule2);
}
.key text {
  font: 600 12px/16px var(--mono);
  fill: var(--ink);
}
.loose {
  fill: var(--page);
  stroke: var(--oxide);
  stroke-width: 1.6;
  cursor: grab;
}
.nowhere {
  font: 600 12px/16px var(--sans);
  fill: var(--oxide);
}
.elsewhere {
  font: 12px/16px var(--sans);
  fill: var(--ink);
  text-decoration: underline;
  text-decoration-color: var(--brass);
  text-underline-offset: 3px;
  cursor: pointer;
}
</style>

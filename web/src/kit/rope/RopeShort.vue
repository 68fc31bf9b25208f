<script setup lang="ts">
import { computed, useId } from 'vue';
import { shortened } from '../shortened.ts';
import RopeDefs from './RopeDefs.vue';
import RopeMark from './RopeMark.vue';
import type { RopeStep } from '@night-bell/core/story/step';

/** The rope lying down, for the bar and for lists; captions below when there is room. */
const props = defineProps<{
  steps: RopeStep[];
  whatIf: boolean;
  captions?: boolean;
  ground?: string;
  width?: number;
}>();
const id = useId();

const sallyLength = computed(() => (props.captions ? 66 : 36));
/** Lists leave out what says nothing at this size: the end behind a talk. */
const shown = computed(() => {
  const steps = props.steps.filter((step) => step.mark !== 'now');
  return props.captions || steps.at(-1)?.mark !== 'loop' || steps.at(-2)?.mark !== 'sally'
    ? steps
    : steps.slice(0, -1);
});

const layout = computed(() => {
  const gap = props.captions
    ? shown.value.length > 4
      ? 58
      : 64
    : Math.min(
        26,
        Math.max(16, ((props.width ?? 132) - sallyLength.value - 12) / Math.max(1, shown.value.length)),
      );
  let x = 6;
  const places = shown.value.map((step) => {
    const length =
      step.mark === 'sally' ? sallyLength.value : step.mark === 'coil' ? (props.captions ? 20 : 14) : 0;
    const place = { step, x: x + length / 2, length };
    x += length + gap;
    return place;
  });
  const last = places.at(-1);
  return {
    places,
    width: last === undefined ? 0 : last.x + Math.max(last.length / 2, 10) + 4,
    end: last?.x ?? 0,
  };
});

/** On a long rope the one who talks goes by the first name, so that the end stays in sight. */
function captionOf({ step, length }: { step: RopeStep; length: number }): string {
  if (length <= 40) return shortened(step.caption, 11);
  return shown.value.length > 4 ? shortened(step.caption.split(' ')[0]!, 11) : shortened(step.caption, 16);
}
</script>

<template>
  <svg
    :width="layout.width + (captions ? 52 : 0)"
    :height="captions ? 40 : 18"
    :viewBox="`${captions ? -26 : 0} ${captions ? -14 : -9} ${layout.width + (captions ? 52 : 0)} ${captions ? 40 : 18}`"
    preserveAspectRatio="xMinYMid"
    aria-hidden="true"
  >
    <RopeDefs :id="id" :what-if="whatIf" />
    <rect
      v-if="layout.places.length > 0"
      :x="6"
      y="-2.5"
      :width="Math.max(0, layout.end - 6)"
      height="5"
      :fill="`url(#${id}-rope)`"
    />
    <g v-for="place in layout.places" :key="place.x" :transform="`translate(${place.x} 0)`">
      <RopeMark
        :id="id"
        :step="place.step"
        :what-if="whatIf"
        :vertical="false"
        :length="place.length"
        :ground="ground ?? 'var(--page)'"
      />
      <text v-if="captions" y="21" text-anchor="middle" class="caption">
        {{ captionOf(place) }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.caption {
  font: 11px var(--sans);
  fill: #b4c0bc;
}
</style>

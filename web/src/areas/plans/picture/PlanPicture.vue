<script setup lang="ts">
import { computed, nextTick, onMounted, ref, toRef, useId, watch } from 'vue';
import type { PathStep } from '@night-bell/core/rehearse/test-call';
import type { Place, PlanDocument } from '@night-bell/core/plan/document';
import { wayKey } from '@night-bell/core/plan/layout';
import type { PlanFinding } from '@night-bell/core/plan/check';
import RopeDefs from '../../../kit/rope/RopeDefs.vue';
import { stepKinds } from '@night-bell/core/plan/registry';
import type { PlanEditing } from '../plan-editing.ts';
import type { PlanNames } from '../plan-names.ts';
import { findingWords } from '../words.ts';
import { type Carried, type Onto, useCarrying } from './carrying.ts';
import { useFolding } from './folding.ts';
import { drawStrand, pointOf, sizeOf } from './geometry.ts';
import { usePanning } from './panning.ts';
import PictureStep from './PictureStep.vue';
import PictureStrand from './PictureStrand.vue';
import SmallMap from './SmallMap.vue';
import StepShelf from './StepShelf.vue';
import { useWalking } from './walking.ts';
import { stepWords } from './step-words.ts';

/**
 * A plan as ropes: main lines straight, branches hanging below. It lays itself out; what is carried onto a rope is tied
 * in there, a loose end carried onto a step joins it. Everything goes by keys too.
 */
const props = defineProps<{
  document: PlanDocument;
  /** Null for a version that is only looked at. */
  editing: PlanEditing | null;
  label: string;
  names: PlanNames;
  findings: readonly PlanFinding[];
  numberOf: (stepId: string) => string;
  readonly: boolean;
  /** Where calls come in. */
  arrives: string;
  /** How steps differ from the version beside, in a word; '' for not. */
  difference: (stepId: string) => string;
  found: ReadonlySet<string>;
  /** The way of the test call. */
  path: readonly PathStep[];
}>();
const id = useId();
const frame = ref<HTMLElement | null>(null);
const layer = ref<SVGGElement | null>(null);
const ghost = ref<HTMLElement | null>(null);
const says = ref('');

const { layout, fold, foldAll, unfoldAll, uncover } = useFolding(toRef(props, 'document'));
const strands = computed(() => layout.value.strands.map(drawStrand));
const size = computed(() => sizeOf(layout.value));
const { view, sizeBy, whole, fit, reveal, centre, at } = usePanning(frame, layer);
/** Read by the small map alone: moving the picture draws nothing else anew. */
const seen = () => view.value;
const isLarge = computed(
  () => size.value.width > view.value.width * 1.05 || size.value.height > view.value.height * 1.05,
);

const chosen = computed(() => props.editing?.chosen.value ?? null);
const marked = computed(() => props.editing?.marked.value ?? new Set<string>());
const placedAt = computed(() => new Map(layout.value.steps.map((step) => [step.stepId, step])));
const lit = computed(() => new Set(props.path.map(({ stepId }) => stepId)));
const litWays = computed(
  () =>
    new Set(
      props.path.map(({ by }) => (by === null ? 'start' : wayKey({ after: by.stepId, exit: by.exit }))),
    ),
);
const waysOf = computed(() => {
  const counts = new Map<string, number>();
  for (const { place } of layout.value.strands)
    if (place !== 'start') counts.set(place.after, (counts.get(place.after) ?? 0) + 1);
  return counts;
});
const hanging = computed(
  () =>
    new Set(
      strands.value.flatMap(({ straight, strand: { place } }) =>
        straight || place === 'start' ? [] : [place.after],
      ),
    ),
);
const isSaid = (place: Place) => place !== 'start' && (waysOf.value.get(place.after) ?? 0) > 1;
const gradeOf = (stepId: string) => {
  const grades = props.findings.filter((finding) => finding.stepId === stepId).map(({ grade }) => grade);
  return grades.includes('fault') ? 'fault' : grades.length > 0 ? 'doubt' : null;
};

/** A step in a sentence: what it does, where it leads, what is wrong with it. */
function sentence(stepId: string): string {
  const step = props.document.steps[stepId]!;
  const ways = strands.value
    .filter(({ strand: { place } }) => place !== 'start' && place.after === stepId)
    .map(({ strand }) => {
      if (strand.kind === 'open') return `${strand.label}: leads nowhere`;
      if (strand.kind === 'folded') return `${strand.label}: ${strand.steps} steps, folded`;
      return `${strand.label}: ${props.numberOf(strand.target)}`;
    });
  const wrong = props.findings
    .filter((finding) => finding.stepId === stepId)
    .map((finding) => findingWords(finding, props.names.nameOf, props.numberOf));
  const said = stepKinds[step.kind].describe(step.config as never, props.names.nameOf);
  return [`${props.numberOf(stepId)}. ${said}`, ...ways, ...wrong].join('. ');
}

function choose(stepId: string): void {
  uncover(stepId);
  props.editing?.choose(stepId);
}
function press(event: MouseEvent, stepId: string): void {
  if (props.editing === null) return;
  if (event.ctrlKey || event.metaKey || event.shiftKey) props.editing.mark(stepId);
  else choose(stepId);
}

/** One mark, changed by hand: nothing is drawn anew while something is carried. */
let marking: Element | null = null;
function mark(onto: Onto | null): void {
  marking?.classList.remove('onto');
  const selector =
    onto === null
      ? null
      : 'strand' in onto
        ? `[data-way="${CSS.escape(wayKey(onto.strand.strand.place))}"]`
        : `[data-step="${CSS.escape(onto.stepId)}"] > .step`;
  marking = selector === null ? null : (layer.value?.querySelector(selector) ?? null);
  marking?.classList.add('onto');
}
function drop(carried: Carried, onto: Onto): void {
  const { editing } = props;
  if (editing === null) return;
  if ('stepId' in onto) {
    if (carried.what === 'end') editing.lead(carried.place, onto.stepId);
    return;
  }
  const { place } = onto.strand.strand;
  if (carried.what === 'kind') {
    editing.add(carried.kind, place);
    says.value = `${stepKinds[carried.kind].word} is tied in.`;
  } else if (carried.what === 'steps')
    says.value = editing.moveMeant(carried.ids, place)
      ? `Now step ${props.numberOf(carried.ids[0]!)}.`
      : 'These steps cannot go there.';
}
const { carried, take } = useCarrying({
  ...{ at, mark, drop },
  strands: () => strands.value,
  steps: () => layout.value.steps,
  ghost: () => ghost.value,
});
function lift(event: PointerEvent, stepId: string): void {
  frame.value?.focus({ preventScroll: true });
  if (props.readonly || props.editing === null || event.ctrlKey || event.shiftKey || event.metaKey) return;
  const ids = marked.value.has(stepId) ? props.editing.meant.value : [stepId];
  take(event, { what: 'steps', ids });
}
const ghostWords = computed(() => {
  const what = carried.value;
  if (what === null) return '';
  if (what.what === 'kind') return stepKinds[what.kind].word;
  if (what.what === 'end') return 'joins';
  return what.ids.length > 1
    ? `${what.ids.length} steps`
    : stepWords(props.document.steps[what.ids[0]!]!, props.names).name;
});

const { onKey } = useWalking({
  layout,
  editing: () => props.editing,
  readonly: () => props.readonly,
  numberOf: props.numberOf,
  ...{ choose, fold, says, sizeBy, whole },
});

watch(
  [chosen, layout],
  async ([stepId]) => {
    if (stepId === null) return;
    await nextTick();
    const placed = placedAt.value.get(stepId);
    if (placed === undefined) uncover(stepId);
    else reveal(pointOf(placed));
  },
  { flush: 'post' },
);
onMounted(() => {
  const placed = chosen.value === null ? undefined : placedAt.value.get(chosen.value);
  if (placed !== undefined) reveal(pointOf(placed));
});
</script>

<template>
  <div class="picture">
    <StepShelf
      v-if="editing !== null && !readonly"
      @take="(event, kind) => take(event, { what: 'kind', kind })"
      @add="editing.add($event)"
    />
    <div
      ref="frame"
      class="frame"
      role="tree"
      tabindex="0"
      :aria-label="label"
      aria-multiselectable="true"
      :aria-activedescendant="chosen !== null && placedAt.has(chosen) ? `${id}-${chosen}` : undefined"
      @keydown="onKey"
    >
      <svg class="all" role="none">
        <RopeDefs :id="id" :what-if="false" />
        <g ref="layer" class="layer" role="none">
          <g v-if="document.start !== null" class="arrives" aria-hidden="true" transform="translate(34 40)">
            <circle r="5" :class="{ lit: litWays.has('start') }" />
            <text x="-8" y="-15">{{ arrives }}</text>
          </g>
          <g aria-hidden="true">
            <PictureStrand
              v-for="each in strands"
              :key="wayKey(each.strand.place)"
              :drawn="each"
              :rope="id"
              :lit="litWays.has(wayKey(each.strand.place))"
              :number-of="numberOf"
              :said="isSaid(each.strand.place)"
              @fold="fold(wayKey(each.strand.place))"
              @go="choose"
              @take="!readonly && take($event, { what: 'end', place: each.strand.place })"
            />
          </g>
          <g
            v-for="placed in layout.steps"
            :id="`${id}-${placed.stepId}`"
            :key="placed.stepId"
            role="treeitem"
            :aria-level="placed.row + 1"
            :aria-label="sentence(placed.stepId)"
            :aria-selected="chosen === placed.stepId || marked.has(placed.stepId)"
            :data-step="placed.stepId"
            @click="press($event, placed.stepId)"
            @pointerdown="lift($event, placed.stepId)"
          >
            <PictureStep
              :placed="placed"
              :step="document.steps[placed.stepId]!"
              :words="stepWords(document.steps[placed.stepId]!, names)"
              :number="numberOf(placed.stepId)"
              :grade="gradeOf(placed.stepId)"
              :chosen="chosen === placed.stepId"
              :marked="marked.has(placed.stepId)"
              :found="found.has(placed.stepId)"
              :lit="lit.has(placed.stepId)"
              :hangs="hanging.has(placed.stepId)"
              :difference="difference(placed.stepId)"
            />
          </g>
        </g>
      </svg>
    </div>
    <div class="sizes" :class="{ beside: editing !== null && !readonly }">
      <button type="button" class="link" @click="fit(size)">All of it</button>
      <button type="button" class="link" aria-label="Smaller" @click="sizeBy(1 / 1.25)">−</button>
      <button type="button" class="link" aria-label="Larger" @click="sizeBy(1.25)">+</button>
      <button type="button" class="link" @click="foldAll">Fold</button>
      <button type="button" class="link" @click="unfoldAll">Unfold</button>
    </div>
    <SmallMap v-if="isLarge" :strands="strands" :size="size" :seen="seen" @go="centre" />
    <div v-show="carried !== null" ref="ghost" class="ghost" aria-hidden="true">{{ ghostWords }}</div>
    <p class="sr-only" role="status" aria-live="polite">{{ says }}</p>
  </div>
</template>

<style scoped>
.picture {
  flex: 1;
  min-width: 0;
  display: flex;
  position: relative;
  overflow: hidden;
}
.frame {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  outline-offset: -2px;
  cursor: grab;
  touch-action: none;
}
.all {
  width: 100%;
  height: 100%;
  display: block;
  user-select: none;
}
.layer {
  transform-origin: 0 0;
}
.arrives circle {
  fill: var(--rope-d);
}
.arrives circle.lit {
  fill: var(--plum);
}
.arrives text {
  font: 600 13px/18px var(--sans);
  fill: var(--ink);
}
.sizes {
  position: absolute;
  left: 12px;
  bottom: 8px;
  display: flex;
  gap: 12px;
  background: var(--page);
  padding: 0 4px;
}
.sizes.beside {
  left: 170px;
}
.ghost {
  position: fixed;
  left: 0;
  top: 0;
  z-index: 10;
  padding: 2px 8px;
  background: var(--sheet);
  outline: 1px solid var(--brass);
  font-weight: 600;
  pointer-events: none;
  will-change: transform;
}
</style>

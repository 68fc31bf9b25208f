<script setup lang="ts">
import { computed, nextTick, ref, useId, watch } from 'vue';
import type { PlanFinding } from '@night-bell/core/plan/check';
import type { OutlineLine } from '@night-bell/core/plan/outline';
import { stepKinds } from '@night-bell/core/plan/registry';
import RopeDefs from '../../kit/rope/RopeDefs.vue';
import Shape from '../../kit/Shape.vue';
import PlanMark from './PlanMark.vue';
import PlanRails from './PlanRails.vue';
import { useDragging } from './dragging.ts';
import { focusFields } from './focus-steps.ts';
import type { PlanEditing } from './plan-editing.ts';
import { branchKey, usePlanLines } from './plan-lines.ts';
import type { PlanNames } from './plan-names.ts';
import { findingWords, stepCount } from './words.ts';

/**
 * A plan as a list on its rope: a step a row, branches below their step, folded or not. Arrows move and fold, with Alt
 * they move the step.
 */
defineOptions({ inheritAttrs: false });
const props = defineProps<{
  editing: PlanEditing;
  names: PlanNames;
  findings: PlanFinding[];
  numberOf: (stepId: string) => string;
  readonly: boolean;
  /** How a step differs from the version beside, in a word; '' for not. */
  difference: (stepId: string) => string;
  /** Steps that hold what is looked for. */
  found: ReadonlySet<string>;
}>();
const id = useId();
const body = ref<HTMLElement | null>(null);
const says = ref('');
const document = props.editing.document;

const { folded, visible, rails, fold, foldAll } = usePlanLines(props.editing.lines);
const steps = computed(() => visible.value.filter((line) => line.kind === 'step'));
const describe = (stepId: string) => {
  const step = document.value.steps[stepId]!;
  return stepKinds[step.kind].describe(step.config as never, props.names.nameOf);
};
const findingsOf = (stepId: string) => props.findings.filter((finding) => finding.stepId === stepId);
/** With Shift the step arrived at is marked too. */
function step(by: number, marks = false): void {
  const at = steps.value.findIndex((line) => line.stepId === props.editing.chosen.value);
  const next = steps.value[Math.min(steps.value.length - 1, Math.max(0, at + by))];
  if (next === undefined) return;
  if (!marks) return props.editing.choose(next.stepId);
  props.editing.markTo(next.stepId);
}

function press(event: MouseEvent, stepId: string): void {
  if (event.ctrlKey || event.metaKey || event.shiftKey) props.editing.mark(stepId);
  else props.editing.choose(stepId);
}

const { lift, carried } = useDragging({
  list: body,
  lines: visible,
  document,
  /** Those marked go together; one that is not goes alone. */
  carries: (stepId) => (props.editing.marked.value.has(stepId) ? props.editing.meant.value : [stepId]),
  drop: (ids, place) => {
    const moved = props.editing.moveMeant(ids, place);
    says.value = moved ? `Now step ${props.numberOf(ids[0]!)}.` : 'These steps cannot go there.';
    return moved;
  },
});

function onKey(event: KeyboardEvent): void {
  const chosen = props.editing.chosen.value;
  const { key, altKey, ctrlKey, metaKey } = event;
  if (ctrlKey || metaKey) return;
  if (altKey && (key === 'ArrowUp' || key === 'ArrowDown') && chosen !== null && !props.readonly) {
    const moved = props.editing.moveBy(chosen, key === 'ArrowUp' ? -1 : 1);
    says.value = moved ? `Now step ${props.numberOf(chosen)}.` : 'This step cannot go there.';
  } else if (altKey) return;
  else if (key === 'ArrowDown') step(1, event.shiftKey);
  else if (key === 'ArrowUp') step(-1, event.shiftKey);
  else if (key === 'Home') step(-Infinity);
  else if (key === 'End') step(Infinity);
  else if (key === 'ArrowRight' && chosen !== null) foldAll(chosen, false);
  else if (key === 'ArrowLeft' && chosen !== null) foldAll(chosen, true);
  else if (key === 'Enter') focusFields();
  else if (key === 'Delete' && chosen !== null && !props.readonly) props.editing.takeOutMeant();
  else return;
  event.preventDefault();
}

watch(props.editing.chosen, async (stepId) => {
  await nextTick();
  body.value?.querySelector(`[data-step="${stepId}"]`)?.scrollIntoView({ block: 'nearest' });
});
const indent = (line: OutlineLine) => `${(line.kind === 'step' ? line.depth : line.depth + 1) * 28}px`;
</script>

<template>
  <div
    ref="body"
    v-bind="$attrs"
    class="plan-list"
    role="tree"
    tabindex="0"
    aria-label="Steps of this plan"
    aria-multiselectable="true"
    :aria-activedescendant="editing.chosen.value === null ? undefined : `${id}-${editing.chosen.value}`"
    @keydown="onKey"
  >
    <svg width="0" height="0" class="defs" aria-hidden="true"><RopeDefs :id="id" what-if /></svg>
    <div class="head">
      <span class="number"></span>
      <span class="lane"></span>
      <span>Step</span>
      <span>Findings, with their fix</span>
    </div>
    <template
      v-for="(line, index) in visible"
      :key="line.kind === 'step' ? line.stepId : `${line.kind} ${branchKey(line)}`"
    >
      <div
        v-if="line.kind === 'step'"
        :id="`${id}-${line.stepId}`"
        class="row step"
        :class="{
          chosen: editing.chosen.value === line.stepId,
          marked: editing.marked.value.has(line.stepId),
          carried: carried.has(line.stepId),
          found: found.has(line.stepId),
        }"
        role="treeitem"
        :aria-level="line.depth + 1"
        :aria-selected="editing.chosen.value === line.stepId || editing.marked.value.has(line.stepId)"
        :data-step="line.stepId"
        :data-line="index"
        @click="press($event, line.stepId)"
      >
        <PlanRails :rails="rails[index]!.past" :rope="id" />
        <span
          class="number mono"
          :class="{ handle: !readonly }"
          :title="readonly ? undefined : 'Drag to move'"
          @pointerdown="!readonly && lift($event, line.stepId)"
          >{{ line.number }}</span
        >
        <span class="lane" :style="{ marginLeft: indent(line) }">
          <PlanMark
            :kind="document.steps[line.stepId]!.kind"
            :rope="id"
            :first="index === 0"
            :last="!rails[index]!.goesOn"
          />
        </span>
        <span class="words">
          <b>{{ stepKinds[document.steps[line.stepId]!.kind].word }}</b>
          <span v-if="difference(line.stepId)" class="plum">{{ difference(line.stepId) }}</span>
          <span class="second about">{{ describe(line.stepId) }}</span>
        </span>
        <span class="findings">
          <span
            v-for="(finding, place) in findingsOf(line.stepId).slice(0, 2)"
            :key="place"
            :class="finding.grade === 'fault' ? 'fault-text' : 'second'"
          >
            <Shape :name="finding.grade === 'fault' ? 'fault' : 'missing'" />
            {{ findingWords(finding, names.nameOf, numberOf) }}
          </span>
        </span>
      </div>
      <div
        v-else
        class="row way"
        role="treeitem"
        :aria-level="line.depth + 2"
        :data-line="index"
        @click="editing.choose(line.stepId)"
      >
        <PlanRails :rails="rails[index]!.past" :rope="id" />
        <span class="number"></span>
        <span class="lane" :style="{ marginLeft: indent(line) }"
          ><span class="strand" :class="line.kind"
        /></span>
        <span class="words">
          <template v-if="line.kind === 'branch'">
            {{ line.label }}: <span class="second steps">{{ stepCount(line.steps) }}</span>
            <button
              type="button"
              class="link"
              :aria-expanded="!folded.has(branchKey(line))"
              @click.stop="fold(line)"
            >
              {{ folded.has(branchKey(line)) ? 'Unfold' : 'Fold' }}
            </button>
          </template>
          <template v-else-if="line.kind === 'goesTo'">
            {{ line.label }}:
            <button type="button" class="link" @click.stop="editing.choose(line.target)">
              goes to {{ numberOf(line.target) }}
            </button>
          </template>
          <template v-else
            ><span class="fault-text">{{ line.label }}: leads nowhere</span></template
          >
        </span>
      </div>
    </template>
    <div class="drop-line" aria-hidden="true"></div>
  </div>
  <p class="sr-only" role="status" aria-live="polite">{{ says }}</p>
</template>

<style scoped>
.plan-list {
  flex: 1;
  overflow: auto;
  min-width: 0;
  outline-offset: -2px;
}
.defs {
  position: absolute;
}
.head,
.row {
  display: grid;
  grid-template-columns: 56px auto minmax(0, 1fr) minmax(0, 300px);
  align-items: stretch;
  border-bottom: 1px solid var(--rule);
}
.head {
  font-size: 12px;
  font-weight: 600;
  height: 28px;
  align-items: center;
  border-bottom-color: var(--rule2);
  position: sticky;
  top: 0;
  background: var(--page);
  z-index: 1;
}
.row {
  position: relative;
}
.steps {
  margin-right: 8px;
}
.step {
  min-height: 48px;
  cursor: default;
}
.way {
  min-height: 30px;
}
.chosen,
.marked {
  background: var(--sel);
}
.marked {
  box-shadow: inset 3px 0 0 var(--plum);
}
.found .words {
  box-shadow: inset 0 -2px 0 var(--brass);
}
.carried {
  opacity: 0.45;
}
.handle {
  cursor: grab;
  touch-action: none;
}
.plan-list {
  position: relative;
}
.drop-line {
  position: absolute;
  left: 56px;
  right: 0;
  top: 0;
  height: 0;
  border-top: 2px solid var(--plum);
  display: none;
  pointer-events: none;
}
.drop-line.shown {
  display: block;
}
.number {
  text-align: right;
  padding: 6px 10px 0 0;
  border-right: 4px double var(--margin);
  align-self: stretch;
  font-size: 12px;
  overflow-wrap: anywhere;
}
.lane {
  width: 56px;
  position: relative;
}
.words {
  padding: 6px 8px;
  min-width: 0;
}
.about {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.findings {
  padding: 6px 12px 6px 8px;
  font-size: 12px;
  line-height: 16px;
}
.findings > span {
  display: block;
}
.plum {
  color: var(--plum);
  margin-left: 6px;
}
.strand {
  position: absolute;
  left: -1px;
  top: -10px;
  width: 26px;
  height: 26px;
  border-left: 3px solid var(--wi-d);
  border-bottom: 3px solid var(--wi-d);
  border-bottom-left-radius: 12px;
  opacity: 0.75;
}
.strand.goesTo,
.strand.open {
  border-width: 0 0 1.4px 1.4px;
  border-style: dashed;
}
.strand.open {
  border-color: var(--oxide);
}
</style>

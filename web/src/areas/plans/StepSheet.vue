<script setup lang="ts">
import { computed, nextTick } from 'vue';
import type { StepKindName } from '@night-bell/core/model/plan';
import type { PlanFinding } from '@night-bell/core/plan/check';
import { stepAt } from '@night-bell/core/plan/document';
import { stepKinds } from '@night-bell/core/plan/registry';
import Shape from '../../kit/Shape.vue';
import { focusFields, focusSteps } from './focus-steps.ts';
import type { PlanEditing } from './plan-editing.ts';
import type { PlanNames } from './plan-names.ts';
import StepFields from './StepFields.vue';
import { findingWords, helpWords, shelf } from './words.ts';

/** The chosen step: what it does, where it leads, what is wrong with it. */
const props = defineProps<{
  stepId: string;
  planId: string;
  editing: PlanEditing;
  names: PlanNames;
  findings: PlanFinding[];
  numberOf: (stepId: string) => string;
  readonly: boolean;
}>();

const step = computed(() => props.editing.document.value.steps[props.stepId]!);
const kind = computed(() => stepKinds[step.value.kind]);
const exits = computed(() =>
  kind.value.exits(step.value.config as never).map((exit) => ({
    ...exit,
    target: stepAt(props.editing.document.value, { after: props.stepId, exit: exit.name }),
  })),
);
const targets = computed(() => [
  { value: '', title: 'nowhere' },
  ...Object.entries(props.editing.document.value.steps)
    .filter(([id]) => id !== props.stepId || step.value.kind === 'keys')
    .map(([id, each]) => ({
      value: id,
      title: `${props.numberOf(id)} ${stepKinds[each.kind].describe(each.config as never, props.names.nameOf)}`,
    })),
  ...shelf.map((each) => ({ value: `new ${each}`, title: `New step: ${stepKinds[each].word}` })),
]);

/** Escape closes what is open over the sheet; then it leads back to the steps. */
function leave(event: KeyboardEvent): void {
  if (document.querySelector('.v-overlay--active') === null && focusSteps()) event.stopPropagation();
}

function lead(exit: string, target: string): void {
  const place = { after: props.stepId, exit };
  if (target.startsWith('new ')) {
    props.editing.add(target.slice(4) as StepKindName, place);
    // The way that was chosen is on another sheet now: one goes on at the new step.
    void nextTick(focusFields);
  } else props.editing.lead(place, target === '' ? null : target);
}
</script>

<template>
  <aside class="step-sheet" :aria-label="`Step ${numberOf(stepId)}`" @keydown.esc="leave">
    <header>
      <p class="second small">Step {{ numberOf(stepId) }}</p>
      <h2>{{ kind.word }}</h2>
    </header>
    <section v-if="findings.length > 0">
      <p
        v-for="(finding, index) in findings"
        :key="index"
        :class="finding.grade === 'fault' ? 'fault-text' : ''"
      >
        <Shape :name="finding.grade === 'fault' ? 'fault' : 'missing'" />
        {{ findingWords(finding, names.nameOf, numberOf) }}
      </p>
    </section>
    <section>
      <StepFields
        :key="stepId"
        :step="step"
        :plan-id="planId"
        :names="names"
        :readonly="readonly"
        @set="editing.set(stepId, $event)"
      />
    </section>
    <section v-if="exits.length > 0">
      <table>
        <thead>
          <tr>
            <th>When</th>
            <th>the call goes to</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="exit in exits" :key="exit.name">
            <td>
              <label :for="`exit-${exit.name}`">{{ exit.label }}</label>
            </td>
            <td>
              <v-autocomplete
                :id="`exit-${exit.name}`"
                :aria-label="`${exit.label}, the call goes to`"
                :model-value="exit.target ?? ''"
                :items="targets"
                :readonly="readonly"
                auto-select-first
                :class="{ lost: exit.needed && exit.target === null }"
                @update:model-value="lead(exit.name, $event ?? '')"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <p class="second small">{{ helpWords[step.kind] }}</p>
      <div v-if="!readonly" class="buttons">
        <v-btn size="small" @click="editing.copy()">Copy</v-btn>
        <v-btn size="small" @click="editing.takeOutMeant()">Take out</v-btn>
      </div>
    </section>
  </aside>
</template>

<style scoped>
.step-sheet {
  width: 336px;
  flex: none;
  background: var(--sheet);
  border-left: 1px solid var(--rule2);
  overflow: auto;
}
header {
  padding: 12px 16px 4px;
}
section {
  padding: 8px 16px 10px;
  border-bottom: 1px solid var(--rule);
}
table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
th {
  text-align: left;
  font-size: 12px;
  border-bottom: 1px solid var(--rule2);
}
td,
th {
  padding: 4px 8px 4px 0;
}
.lost :deep(.v-field) {
  color: var(--oxide);
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 8px;
}
</style>

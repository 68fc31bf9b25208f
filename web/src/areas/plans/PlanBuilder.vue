<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import type { Destination } from '@night-bell/core/model/destination';
import { checkPlan } from '@night-bell/core/plan/check';
import { stepTo } from '@night-bell/core/plan/compile';
import {
  compiledPlan,
  configure,
  freshStep,
  insert,
  type PlanDocument,
  stepAt,
} from '@night-bell/core/plan/document';
import { outline } from '@night-bell/core/plan/outline';
import { stepKinds } from '@night-bell/core/plan/registry';
import { planTemplates } from '@night-bell/core/plan/templates';
import { sentenceOf } from '../../api/client.ts';
import { planApi } from '../../api/plans.ts';
import Shape from '../../kit/Shape.vue';
import { useCollection } from '../../shell/collection.ts';
import { useTestCall } from '../../shell/test-call.ts';
import { usePlanNames } from './plan-names.ts';
import StepFields from './StepFields.vue';
import { findingWords } from './words.ts';

/**
 * A plan for one number, made in its sheet: from a template, or from what the number leads to now. What it needs is made
 * on the spot; the test call follows it while it is built.
 */
const props = defineProps<{ label: string; e164: string; present: Destination | null }>();
const emit = defineEmits<{ published: [planId: string]; leave: [] }>();
const { put, items } = useCollection(planApi);
const names = usePlanNames();
const test = useTestCall();

const presentDocument = computed<PlanDocument | null>(() =>
  props.present === null || props.present.kind === 'end' || props.present.kind === 'plan'
    ? null
    : { start: 's1', steps: { s1: stepTo(props.present) } },
);
const beginnings = computed(() => [
  ...(presentDocument.value === null
    ? []
    : [{ value: 'present', title: 'What it does now', subtitle: 'As the first step of a plan' }]),
  ...planTemplates.map(({ key, name, about }) => ({ value: key, title: name, subtitle: about })),
]);
const documentOf = (key: string) =>
  key === 'present'
    ? presentDocument.value!
    : planTemplates.find((template) => template.key === key)!.document;

const begin = ref(presentDocument.value === null ? 'menuWithHours' : 'present');
const document = shallowRef<PlanDocument>(documentOf(begin.value));
const name = ref(props.label);
const fault = ref('');
const working = ref(false);
watch(begin, (key) => (document.value = documentOf(key)));

const steps = computed(() =>
  outline(document.value).flatMap((line) =>
    line.kind === 'step'
      ? [{ id: line.stepId, number: line.number, step: document.value.steps[line.stepId]! }]
      : [],
  ),
);
const numberOf = (id: string) => steps.value.find((each) => each.id === id)?.number ?? '?';
/** By which way a caller gets to a step: 'key 1 bookings'. */
function wayTo(id: string): string {
  for (const [after, step] of Object.entries(document.value.steps))
    for (const { name: exit, label } of stepKinds[step.kind].exits(step.config as never))
      if (stepAt(document.value, { after, exit }) === id && exit !== stepKinds[step.kind].main) return label;
  return '';
}
const findings = computed(() =>
  names.isRead()
    ? checkPlan(compiledPlan('new', 0, document.value), { ...names, numbers: () => [props.e164] })
    : [],
);
const faults = computed(() => findings.value.filter(({ grade }) => grade === 'fault'));

/** A key that was just added leads to a queue, until somebody says otherwise. */
function set(id: string, config: PlanDocument['steps'][string]['config']): void {
  let next = configure(document.value, id, config);
  const step = next.steps[id]!;
  for (const { name: exit, chosen } of stepKinds[step.kind].exits(step.config as never))
    if (chosen === true && step.exits[exit] === undefined)
      next = insert(next, { after: id, exit }, freshStep('queue')).document;
  document.value = next;
}

watch(
  [document, name],
  () => {
    test.draft = { name: name.value, document: document.value };
    test.to = props.e164;
    void test.run();
  },
  { immediate: true },
);
onBeforeUnmount(() => (test.draft = null));

async function publish(): Promise<void> {
  working.value = true;
  fault.value = '';
  try {
    const taken = new Set(items.value?.map((plan) => plan.name.toLowerCase()));
    let free = name.value.trim();
    for (let count = 2; taken.has(free.toLowerCase()); count++) free = `${name.value.trim()} ${count}`;
    const made = await planApi.create({ name: free, document: document.value });
    put(made);
    put(await planApi.publish(made.id, made.version));
    emit('published', made.id);
  } catch (error) {
    fault.value = sentenceOf(error);
  } finally {
    working.value = false;
  }
}
</script>

<template>
  <div class="builder">
    <header>
      <v-text-field v-model="name" aria-label="Name of the plan" placeholder="Name of the plan" />
      <v-select v-model="begin" :items="beginnings" aria-label="Begin with">
        <template #item="{ props: item, item: each }">
          <v-list-item v-bind="item" :subtitle="each.subtitle" />
        </template>
      </v-select>
    </header>
    <section v-for="{ id, number, step } in steps" :key="`${begin} ${id}`" class="step">
      <h3>
        <span class="mono second">{{ number }}</span> {{ stepKinds[step.kind].word }}
        <span v-if="wayTo(id)" class="second">{{ wayTo(id) }}</span>
      </h3>
      <StepFields :own="`${id}-`" :step="step" :names="names" :readonly="false" @set="set(id, $event)" />
      <p
        v-for="(finding, index) in findings.filter(({ stepId, grade }) => stepId === id && grade === 'doubt')"
        :key="index"
        class="small second"
      >
        <Shape name="missing" /> {{ findingWords(finding, names.nameOf, numberOf) }}
      </p>
    </section>
    <footer>
      <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
      <p v-else-if="faults.length > 0" class="small second">
        {{ faults.length === 1 ? '1 thing is' : `${faults.length} things are` }} still to be chosen:
        {{ findingWords(faults[0]!, names.nameOf, numberOf) }} (step {{ numberOf(faults[0]!.stepId) }})
      </p>
      <p v-else class="small second">The bar below is a call through it. It holds once it is published.</p>
      <div class="buttons">
        <v-btn
          variant="flat"
          color="primary"
          :loading="working"
          :disabled="faults.length > 0 || name.trim() === ''"
          @click="publish"
          >Publish, and lead the number there</v-btn
        >
        <v-btn @click="emit('leave')">Leave it</v-btn>
      </div>
    </footer>
  </div>
</template>

<style scoped>
.builder {
  background: var(--wash);
  margin: 0 -20px 12px;
  padding: 10px 20px;
}
header {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  margin-bottom: 8px;
}
.step {
  border-top: 1px solid var(--rule2);
  padding: 8px 0 4px;
}
h3 {
  margin-bottom: 4px;
}
footer {
  border-top: 1px solid var(--rule2);
  padding-top: 8px;
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 8px;
}
</style>

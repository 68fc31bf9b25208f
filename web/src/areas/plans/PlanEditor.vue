<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { PlanView } from '@night-bell/core/contracts/plans';
import { checkPlan } from '@night-bell/core/plan/check';
import { mayEditPlan, mayPublishPlan } from '@night-bell/core/plan/rights';
import { formatNumber } from '@night-bell/core/numbers/format';
import { compiledPlan } from '@night-bell/core/plan/document';
import { outline } from '@night-bell/core/plan/outline';
import { stepKinds } from '@night-bell/core/plan/registry';
import EmptyLine from '../../kit/EmptyLine.vue';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import StatePennant from '../../kit/StatePennant.vue';
import { useClock } from '../../kit/time.ts';
import { useCollection } from '../../shell/collection.ts';
import { useKeys } from '../../shell/keys.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useTestCall } from '../../shell/test-call.ts';
import { focusSteps } from './focus-steps.ts';
import { unsaved, usePlanEditing } from './plan-editing.ts';
import { numbersOf } from './plan-lines.ts';
import { usePlanNames } from './plan-names.ts';
import { usePlanSaving } from './plan-saving.ts';
import { usePlanSearch } from './plan-search.ts';
import { usePlanVersions } from './plan-versions.ts';
import { useAddress } from '../../shell/address.ts';
import PlanNumbers from './PlanNumbers.vue';
import PlanRights from './PlanRights.vue';
import PublishLater from './PublishLater.vue';
import PlanReading from './PlanReading.vue';
import PlanList from './PlanList.vue';
import PlanPicture from './picture/PlanPicture.vue';
import PlanTools from './PlanTools.vue';
import { usePlanLook } from './plan-look.ts';
import StepSheet from './StepSheet.vue';
import { planApi, planState, stepCount } from './words.ts';

/** One plan: its steps as a list, the chosen one beside, and what callers meet once it is published. */
const props = defineProps<{ plan: PlanView }>();
const { put, items: plans } = useCollection(planApi);
const router = useRouter();
const session = useSession();
const notices = useNotices();
const test = useTestCall();
const { moment } = useClock();
const names = usePlanNames();
const editing = usePlanEditing(unsaved.get(props.plan.id)?.document ?? props.plan.document);
const { document, chosen } = editing;
const shelfOpen = ref(false);

const readonly = computed(() => !may(mayEditPlan) || props.plan.retired);
const publishes = computed(() => may(mayPublishPlan) && !props.plan.retired);
/** The server asks the same. */
function may(allowed: typeof mayEditPlan): boolean {
  const me = session.view?.person ?? null;
  return me !== null && allowed(me, props.plan.rights);
}
const { changed, saving, conflict, save, publish, mine, theirs } = usePlanSaving(
  () => props.plan,
  editing,
  () => readonly.value,
);
const {
  chosen: besideNumber,
  beside,
  gone,
  choices,
  bringBack,
} = usePlanVersions(() => props.plan, editing, names);
const { find, found, nextFound } = usePlanSearch(editing, names);
const view = usePlanLook();
const numbers = computed(() => numbersOf(editing.lines.value));
const numberOf = (stepId: string) => numbers.value.get(stepId) ?? '?';
const besideNumbers = computed(() => numbersOf(beside.value === null ? [] : outline(beside.value.document)));
const besideNumberOf = (stepId: string) => besideNumbers.value.get(stepId) ?? '?';
const joins = computed(() => editing.lines.value.filter(({ kind }) => kind === 'goesTo').length);
/** How a step differs from the version beside, in a word. */
function difference(stepId: string): string {
  const before = beside.value?.document.steps[stepId];
  if (beside.value === null) return '';
  if (before === undefined) return 'added';
  return JSON.stringify(before) === JSON.stringify(document.value.steps[stepId]) ? '' : 'changed';
}
/** The way of the test call through the steps on this page. */
const path = computed(() => (test.answer?.path ?? []).filter(({ planId }) => planId === 'draft'));
const arrives = computed(() => {
  const [first, ...others] = props.plan.numbers;
  if (first === undefined) return 'Comes in';
  return `${formatNumber(first.e164)}${others.length === 0 ? '' : ` +${others.length}`}`;
});
const findings = computed(() => {
  // Before the lists are there everything would be missing.
  if (!names.isRead()) return [];
  const held = props.plan.numbers.map(({ e164 }) => e164);
  return checkPlan(compiledPlan(props.plan.id, 0, document.value), { ...names, numbers: () => held });
});
const faults = computed(() => findings.value.filter(({ grade }) => grade === 'fault'));
const stands = computed(() =>
  changed.value ? 'changed' : planState({ ...props.plan, document: document.value }),
);
const sentence = computed(() => {
  const { published } = props.plan;
  const since =
    published === null ? 'never published' : `version ${published.version} since ${moment(published.at)}`;
  return `${stepCount(Object.keys(document.value.steps).length)}, ${since}`;
});

/** The same steps under another name, as a draft. */
async function copyPlan(): Promise<void> {
  const taken = new Set(plans.value?.map(({ name }) => name));
  let name = `Copy of ${props.plan.name}`;
  for (let count = 2; taken.has(name); count++) name = `Copy ${count} of ${props.plan.name}`;
  try {
    const made = await planApi.create({ name, document: document.value });
    put(made);
    notices.say(`${name} is made. No number leads there yet.`);
    await router.push(`/answering/${made.id}`);
  } catch (error) {
    notices.fail(error);
  }
}

/** The test call follows the draft, whatever is saved. */
watch(
  document,
  (draft) => {
    test.draft = draft.start === null ? null : { name: props.plan.name, document: draft };
    void test.run();
  },
  { immediate: true },
);
onBeforeUnmount(() => {
  test.draft = null;
  void test.run();
});

// The first step of a plan: what was pressed to make it is gone, and the steps take the keys.
watch(
  () => document.value.start === null,
  async (isEmpty, wasEmpty) => {
    if (isEmpty || !wasEmpty) return;
    await nextTick();
    focusSteps();
  },
);

const tools = ref<InstanceType<typeof PlanTools> | null>(null);
/** A link opens the plan at its step. */
const stepInAddress = useAddress().part('step');
if (stepInAddress.value in document.value.steps) chosen.value = stepInAddress.value;
watch(chosen, (stepId) => (stepInAddress.value = stepId ?? ''));

function nextFinding(): void {
  const at = findings.value.findIndex(({ stepId }) => stepId === chosen.value);
  const next = findings.value[(at + 1) % Math.max(1, findings.value.length)];
  if (next !== undefined && next.stepId in document.value.steps) chosen.value = next.stepId;
}
useKeys({
  n: () => (shelfOpen.value = !readonly.value),
  f: nextFinding,
  'mod+z': () => editing.undo(),
  'mod+y': () => editing.redo(),
  'mod+s': () => void save(),
  'mod+c': () => editing.copy(),
  'mod+x': () => {
    if (readonly.value) return;
    editing.copy();
    editing.takeOutMeant();
  },
  'mod+f': () => tools.value?.search(),
  'mod+v': () => !readonly.value && editing.paste(),
});
</script>

<template>
  <PageHead :title="plan.name" :sentence="sentence">
    <template #state><StatePennant :state="stands" /></template>
    <span v-if="faults.length > 0" class="fault-text stop"
      ><Shape name="fault" />
      {{ faults.length === 1 ? '1 fault stops' : `${faults.length} faults stop` }} publishing</span
    >
    <template v-if="!readonly">
      <v-btn v-if="changed" :loading="saving" @click="save">Save draft</v-btn>
      <PublishLater
        v-if="publishes && (stands !== 'published' || plan.scheduled)"
        :plan="plan"
        :stopped="faults.length > 0"
        :save="save"
        @set="put"
      />
      <v-btn
        v-if="publishes"
        variant="flat"
        color="primary"
        :loading="saving"
        :disabled="faults.length > 0 || stands === 'published'"
        @click="publish"
        >Publish</v-btn
      >
    </template>
  </PageHead>
  <div v-if="conflict" class="conflict" role="alert">
    <span
      ><Shape name="fault" /> {{ conflict.by }} changed this plan while you were at it. Nothing is lost.</span
    >
    <v-btn size="small" @click="mine">Save mine over theirs</v-btn>
    <v-btn size="small" @click="theirs">Take theirs, undo brings mine back</v-btn>
  </div>
  <PlanNumbers :plan="plan" :readonly="readonly || !session.mayEdit">
    <PlanRights v-if="session.mayEdit" :plan="plan" @set="put" />
  </PlanNumbers>
  <PlanTools
    ref="tools"
    v-model:view="view"
    v-model:find="find"
    v-model:shelf-open="shelfOpen"
    :editing="editing"
    :readonly="readonly"
    :may-copy-plan="session.mayEdit"
    :found="found.size"
    @copy-plan="copyPlan"
    @next-found="nextFound"
  >
    <template v-if="choices.length > 1">
      <label class="second small" for="plan-beside">Draft beside</label>
      <v-select id="plan-beside" v-model="besideNumber" :items="choices" class="versions" />
      <v-btn v-if="beside !== null && !readonly" size="small" @click="bringBack">Bring it back</v-btn>
    </template>
  </PlanTools>
  <div class="split">
    <EmptyLine
      v-if="document.start === null && editing.lines.value.length === 0"
      text="No steps yet. What does a caller meet first: a greeting, the hours, somebody’s phone?"
    >
      <div class="first">
        <v-btn
          v-for="kind in ['say', 'hours', 'ring', 'keys'] as const"
          :key="kind"
          @click="editing.add(kind)"
          >{{ stepKinds[kind].word }}</v-btn
        >
      </div>
    </EmptyLine>
    <PlanReading
      v-else-if="view === 'sentences'"
      :name="plan.name"
      :document="document"
      :beside="beside"
      :name-of="names.nameOf"
    />
    <div v-else-if="view === 'picture'" class="list">
      <PlanPicture
        :document="document"
        :editing="editing"
        label="Picture of this plan"
        v-bind="{ names, findings, numberOf, readonly, found, path, arrives }"
        :difference="difference"
      />
      <template v-if="beside !== null">
        <p class="beside small">
          <b>Version {{ beside.version }}</b> <span class="second">as callers met it</span>
        </p>
        <PlanPicture
          :document="beside.document"
          :editing="null"
          :label="`Picture of version ${beside.version}`"
          v-bind="{ names, arrives }"
          :findings="[]"
          :number-of="besideNumberOf"
          readonly
          :found="new Set()"
          :path="[]"
          :difference="(stepId) => (stepId in document.steps ? '' : 'taken out since')"
        />
      </template>
    </div>
    <div v-else class="list">
      <p v-if="joins > 0" class="beside small">
        <span class="second"
          >{{ joins === 1 ? 'One way joins' : `${joins} ways join` }} a line or go back.</span
        >
        <button type="button" class="link" @click="view = 'picture'">See them in the picture</button>
      </p>
      <PlanList
        :editing="editing"
        :names="names"
        :findings="findings"
        :number-of="numberOf"
        :readonly="readonly"
        :difference="difference"
        :found="found"
      />
      <p v-for="each in gone" :key="each.id" class="gone small">
        <s>{{ each.words }}</s> taken out since
      </p>
    </div>
    <StepSheet
      v-if="view !== 'sentences' && chosen !== null && chosen in document.steps"
      :step-id="chosen"
      :plan-id="plan.id"
      :editing="editing"
      :names="names"
      :findings="findings.filter(({ stepId }) => stepId === chosen)"
      :number-of="numberOf"
      :readonly="readonly"
    />
  </div>
</template>

<style scoped>
.versions {
  flex: 0 0 190px;
}
.stop {
  align-self: center;
  white-space: nowrap;
}
.conflict {
  display: flex;
  align-items: center;
  gap: 12px;
  background: var(--wash);
  padding: 8px 20px;
  flex: none;
}
.beside {
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule);
}
.gone {
  color: var(--plum);
  padding: 4px 20px;
}
.first {
  display: flex;
  gap: 8px;
}
</style>

<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import type { RulesCaught } from '@night-bell/core/contracts/plans';
import { type Condition, hiddenBy, mostConditions, mostRules, type Rule } from '@night-bell/core/plan/rules';
import { send } from '../../api/items.ts';
import { locale } from '../../kit/locale.ts';
import TakeOut from '../../kit/TakeOut.vue';
import type { PlanNames } from './plan-names.ts';
import RuleCondition from './RuleCondition.vue';
import { freeRuleId, freshCondition, subjects } from './rule-words.ts';

/** Rules in the order in which they are asked: what must hold, and how many of last month's callers each would have taken. */
const props = defineProps<{ names: PlanNames; readonly: boolean; planId: string | null }>();
const rules = defineModel<readonly Rule[]>({ required: true });
const list = computed({ get: () => [...rules.value], set: (next) => (rules.value = next) });

const nameOf = (rule: Rule) => rule.name.trim() || `rule ${rules.value.indexOf(rule) + 1}`;
const change = (index: number, by: Partial<Rule>) =>
  (rules.value = rules.value.map((each, i) => (i === index ? { ...each, ...by } : each)));
const add = () =>
  (rules.value = [
    ...rules.value,
    { id: freeRuleId(rules.value), name: '', all: [freshCondition('caller')] },
  ]);
const put = (index: number, place: number, condition: Condition) =>
  change(index, { all: rules.value[index]!.all.map((each, i) => (i === place ? condition : each)) });
const drop = (index: number, place: number) =>
  change(index, { all: rules.value[index]!.all.filter((_, i) => i !== place) });

const caught = ref<RulesCaught | null>(null);
let asked = 0;
let waiting: ReturnType<typeof setTimeout> | undefined;
async function count(): Promise<void> {
  const turn = ++asked;
  const body = { rules: rules.value, planId: props.planId };
  const came = await send<RulesCaught>('POST', '/api/plans/rules/caught', { body }).catch(() => null);
  if (turn === asked) caught.value = came;
}
onBeforeUnmount(() => clearTimeout(waiting));
watch(
  rules,
  () => {
    clearTimeout(waiting);
    waiting = setTimeout(() => void count(), 400);
  },
  { immediate: true },
);
const figure = (value: number) => value.toLocaleString(locale.value);
function caughtWords(rule: Rule): string {
  const hidden = hiddenBy(rules.value, rules.value.indexOf(rule));
  if (hidden !== null) return `Nobody gets here: ${nameOf(hidden)} takes them all before.`;
  if (caught.value === null) return '';
  const found = caught.value.caught.find(({ id }) => id === rule.id);
  if (found === undefined) return '';
  return found.calls === null
    ? 'What it asks is not known of calls that are over.'
    : `${figure(found.calls)} of ${figure(caught.value.calls)} callers in the last ${caught.value.days} days`;
}
</script>

<template>
  <VueDraggable v-model="list" tag="ol" handle=".handle" :disabled="readonly">
    <li v-for="(rule, index) in rules" :key="rule.id">
      <div class="head">
        <span class="mono second" :class="{ handle: !readonly }" :title="readonly ? '' : 'Drag to reorder'">{{
          index + 1
        }}</span>
        <input
          :value="rule.name"
          :aria-label="`Name of rule ${index + 1}`"
          :placeholder="`rule ${index + 1}`"
          maxlength="60"
          :readonly="readonly"
          @change="change(index, { name: ($event.target as HTMLInputElement).value })"
        />
        <TakeOut
          v-if="!readonly"
          :what="`Take ${nameOf(rule)} out`"
          @click="rules = rules.filter((_, i) => i !== index)"
        />
      </div>
      <RuleCondition
        v-for="(condition, place) in rule.all"
        :key="place"
        :model-value="condition"
        :names="names"
        :readonly="readonly"
        :joined="place === 0 ? 'when' : 'and'"
        :label="`Condition ${place + 1} of ${nameOf(rule)}`"
        @update:model-value="put(index, place, $event)"
        @drop="drop(index, place)"
      />
      <p v-if="rule.all.length === 0" class="second small">Always: whoever gets here is taken.</p>
      <select
        v-if="!readonly && rule.all.length < mostConditions"
        class="more link"
        value=""
        :aria-label="`Add a condition to ${nameOf(rule)}`"
        @change="
          change(index, {
            all: [
              ...rule.all,
              freshCondition(($event.target as HTMLSelectElement).value as Condition['about']),
            ],
          });
          ($event.target as HTMLSelectElement).value = '';
        "
      >
        <option value="" disabled>And…</option>
        <option v-for="subject in subjects" :key="subject.value" :value="subject.value">
          {{ subject.title }}
        </option>
      </select>
      <p class="small" :class="hiddenBy(rules, index) === null ? 'second' : 'fault-text'">
        {{ caughtWords(rule) }}
      </p>
    </li>
  </VueDraggable>
  <p v-if="rules.length === 0" class="second">No rule yet: everybody goes the way of “none of them”.</p>
  <p v-else-if="caught !== null" class="second small">
    {{ figure(caught.none) }} met none of them<template v-if="caught.unknown > 0"
      >, of {{ figure(caught.unknown) }} it cannot be said</template
    >.
  </p>
  <button v-if="!readonly && rules.length < mostRules" type="button" class="link" @click="add">
    Add a rule
  </button>
</template>

<style scoped>
li {
  border-bottom: 1px solid var(--rule);
  padding: 4px 0 6px;
}
.head {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) 20px;
  gap: 6px;
  align-items: center;
}
.handle {
  cursor: grab;
}
input {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 26px;
  font-weight: 600;
  min-width: 0;
}
.more {
  border: 0;
  background: none;
  height: 26px;
  margin-left: 26px;
}
p.small {
  margin-left: 26px;
}
</style>

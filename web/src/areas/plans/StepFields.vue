<script setup lang="ts">
import { computed, ref } from 'vue';
import type { CompiledStep, KeyChoice, StepKindName } from '@night-bell/core/model/plan';
import { dialKeys, type Field, type ItemKind } from '@night-bell/core/plan/fields';
import { stepKinds } from '@night-bell/core/plan/registry';
import { sentenceOf } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import ThingField from '../../kit/ThingField.vue';
import type { Answer } from '@night-bell/core/plan/phrases';
import type { RingTarget } from '@night-bell/core/model/ring';
import type { PromptKind } from '@night-bell/core/sound/kinds';
import { kindWords } from './words.ts';
import { useSession } from '../../shell/session.ts';
import { botExample } from '../bots/words.ts';
import { afterwards, makeable, useMaking } from './make-item.ts';
import type { PlanNames } from './plan-names.ts';
import type { Rule } from '@night-bell/core/plan/rules';
import AnswerChoices from './AnswerChoices.vue';
import KeyChoices from './KeyChoices.vue';
import RingTargets from '../../kit/RingTargets.vue';
import RuleChoices from './RuleChoices.vue';

/** The settings of one step, asked for as its kind describes them. */
const props = defineProps<{
  step: CompiledStep;
  names: PlanNames;
  readonly: boolean;
  own?: string;
  planId?: string;
}>();
const session = useSession();
/** Of this step's fields, where several steps stand on one page. */
const idOf = (name: string) => `step-${props.own ?? ''}${name}`;
const emit = defineEmits<{ set: [config: CompiledStep['config']] }>();

const fields = computed(() => Object.entries(stepKinds[props.step.kind].fields));
const value = <T,>(name: string) => props.step.config[name] as T;
const itemIn = (name: string) => value<string>(name);
const numberIn = (name: string) => value<number | null>(name);
const keyIn = (name: string) => value<string | null>(name);
const set = (name: string, to: unknown) => emit('set', { ...props.step.config, [name]: to });
const keyItems = [{ value: null, title: 'none' }, ...dialKeys.map((key) => ({ value: key, title: key }))];

/** Numbers out of bounds stay what they were until they are right. */
function number(name: string, field: Field & { type: 'whole' | 'wholeOrNone' }, typed: string): void {
  const read = typed.trim() === '' ? null : Number(typed);
  if (read === null) {
    if (field.type === 'wholeOrNone') set(name, null);
    return;
  }
  if (Number.isInteger(read) && read >= field.least && read <= field.most) set(name, read);
}

/** What a field names, made on the spot. */
const make = useMaking();
const making = ref<string | null>(null);
const newName = ref('');
const newWords = ref('');
const newFault = ref('');
function begin(name: string): void {
  making.value = name;
  newName.value = '';
  newWords.value = '';
  newFault.value = '';
}
async function makeIt(of: ItemKind): Promise<void> {
  const field = making.value;
  if (field === null) return;
  newFault.value = '';
  try {
    set(field, await make(of, newName.value, newWords.value, promptKinds[props.step.kind] ?? 'announcement'));
    making.value = null;
  } catch (error) {
    newFault.value = sentenceOf(error);
  }
}
const takesNameAlone = (of: ItemKind) => of !== 'prompt' && of !== 'bot';
const promptKinds: Partial<Record<StepKindName, PromptKind>> = {
  ...{ keys: 'menu', extension: 'menu', customerNumber: 'menu', survey: 'menu', ask: 'menu' },
};
/** Where more of it is set than a name. */
const opens: Partial<Record<ItemKind, { page: string; word: string }>> = {
  ringGroup: { page: '/ring-groups', word: 'Open who is in it' },
  region: { page: '/regions', word: 'Open its rows' },
  bot: { page: '/bots', word: 'Open and try it' },
};
const wordsOf = (id: string) => props.names.words(id) ?? '';
</script>

<template>
  <template v-for="[name, field] in fields" :key="name">
    <LedgerField
      v-if="field.type === 'itemOrNone'"
      :label="field.label"
      :for="idOf(name)"
      :hint="`Empty for ${field.otherwise}`"
    >
      <v-autocomplete
        :id="idOf(name)"
        :aria-label="field.label"
        :model-value="itemIn(name) || null"
        :items="names.choices(field.of) ?? []"
        :readonly="readonly"
        clearable
        :placeholder="field.otherwise"
        @update:model-value="set(name, $event ?? '')"
      />
    </LedgerField>
    <LedgerField v-else-if="field.type === 'item'" :label="field.label" :for="idOf(name)">
      <v-autocomplete
        v-if="names.choices(field.of)"
        :id="idOf(name)"
        :aria-label="field.label"
        :model-value="itemIn(name) || null"
        :items="names.choices(field.of)!"
        :readonly="readonly"
        placeholder="Choose"
        @update:model-value="set(name, $event ?? '')"
      />
      <ThingField
        v-else
        :id="idOf(name)"
        :label="field.label"
        :model-value="itemIn(name) || null"
        :kinds="[field.of]"
        :readonly="readonly"
        placeholder="Choose"
        @update:model-value="set(name, $event ?? '')"
      />
      <router-link
        v-if="opens[field.of] && itemIn(name) !== ''"
        :to="`${opens[field.of]!.page}/${itemIn(name)}`"
        class="small"
        >{{ opens[field.of]!.word }}</router-link
      >
      <p v-if="field.of === 'prompt' && wordsOf(itemIn(name)) !== ''" class="small second">
        “{{ wordsOf(itemIn(name)) }}”
      </p>
      <button
        v-if="makeable[field.of] && !readonly && session.mayEdit && making !== name"
        type="button"
        class="link"
        @click="begin(name)"
      >
        {{ makeable[field.of] }}
      </button>
      <div v-if="making === name" class="made">
        <v-text-field
          v-model="newName"
          :aria-label="`Name of the new ${kindWords[field.of]}`"
          placeholder="Name"
          autofocus
          @keydown.enter.prevent="takesNameAlone(field.of) && makeIt(field.of)"
        />
        <v-textarea
          v-if="field.of === 'prompt'"
          v-model="newWords"
          aria-label="Words of the new prompt"
          placeholder="What callers hear"
          rows="3"
          auto-grow
        />
        <v-text-field
          v-if="field.of === 'bot'"
          v-model="newWords"
          aria-label="Address of the new bot"
          :placeholder="botExample"
          @keydown.enter.prevent="makeIt(field.of)"
        />
        <p v-if="newFault" class="fault-text small" role="alert">{{ newFault }}</p>
        <p v-else-if="afterwards[field.of]" class="second small">{{ afterwards[field.of] }}</p>
        <div class="row">
          <v-btn size="small" @click="makeIt(field.of)">Make it</v-btn>
          <v-btn size="small" @click="making = null">Leave it</v-btn>
        </div>
      </div>
    </LedgerField>
    <LedgerField
      v-else-if="field.type === 'whole' || field.type === 'wholeOrNone'"
      :label="field.label"
      :for="idOf(name)"
      :hint="
        field.type === 'wholeOrNone'
          ? `${field.least} to ${field.most}; empty for ${field.otherwise}`
          : `${field.least} to ${field.most}`
      "
    >
      <input
        :id="idOf(name)"
        type="number"
        class="mono number"
        :min="field.least"
        :max="field.most"
        :value="numberIn(name)"
        :readonly="readonly"
        @change="number(name, field, ($event.target as HTMLInputElement).value)"
      />
    </LedgerField>
    <LedgerField
      v-else-if="field.type === 'text'"
      :label="field.label"
      :for="idOf(name)"
      :hint="`Empty for ${field.otherwise}`"
    >
      <v-textarea
        v-if="field.most > 100"
        :id="idOf(name)"
        :model-value="value<string>(name)"
        :maxlength="field.most"
        :readonly="readonly"
        rows="3"
        auto-grow
        @update:model-value="set(name, $event)"
      />
      <input
        v-else
        :id="idOf(name)"
        :list="`${idOf(name)}-fields`"
        :maxlength="field.most"
        :value="value<string>(name)"
        :readonly="readonly"
        @change="set(name, ($event.target as HTMLInputElement).value.trim())"
      />
      <datalist :id="`${idOf(name)}-fields`">
        <option v-for="each in names.recordFields() ?? []" :key="each" :value="each" />
      </datalist>
    </LedgerField>
    <LedgerField v-else-if="field.type === 'key'" :label="field.label" :for="idOf(name)">
      <v-select
        :id="idOf(name)"
        :model-value="keyIn(name)"
        :items="keyItems"
        :readonly="readonly"
        class="short"
        @update:model-value="set(name, $event)"
      />
    </LedgerField>
    <LedgerField v-else-if="field.type === 'choice'" :label="field.label" :for="idOf(name)">
      <v-select
        :id="idOf(name)"
        :model-value="value<string>(name)"
        :items="[...field.of]"
        :readonly="readonly"
        @update:model-value="set(name, $event)"
      />
    </LedgerField>
    <LedgerField v-else-if="field.type === 'ringTargets'" :label="field.label">
      <RingTargets
        :model-value="value<readonly RingTarget[]>(name)"
        :name-of="names.nameOf"
        :readonly="readonly"
        @update:model-value="set(name, $event)"
      />
    </LedgerField>
    <RuleChoices
      v-else-if="field.type === 'rules'"
      :model-value="value<readonly Rule[]>(name)"
      :names="names"
      :readonly="readonly"
      :plan-id="planId ?? null"
      @update:model-value="set(name, $event)"
    />
    <LedgerField v-else-if="field.type === 'answers'" :label="field.label">
      <AnswerChoices
        :model-value="value<readonly Answer[]>(name)"
        :readonly="readonly"
        @update:model-value="set(name, $event)"
      />
    </LedgerField>
    <LedgerField v-else :label="field.label">
      <KeyChoices
        :model-value="value<readonly KeyChoice[]>(name)"
        :readonly="readonly"
        @update:model-value="set(name, $event)"
      />
    </LedgerField>
  </template>
</template>

<style scoped>
.number {
  width: 64px;
}
input {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 26px;
  padding: 0 2px;
}
.short {
  max-width: 90px;
}
.link {
  border: 0;
  background: none;
  color: var(--brass);
  cursor: pointer;
  padding: 2px 0;
}
.made {
  background: var(--wash);
  padding: 6px 8px;
  margin-top: 4px;
}
.row {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Destination } from '@night-bell/core/model/destination';
import { api, ApiProblem, ask } from '../api/client.ts';
import { emptyDocument } from '@night-bell/core/plan/document';
import { planTemplates } from '@night-bell/core/plan/templates';
import { planApi } from '../api/plans.ts';
import { making } from './making.ts';
import { useSetUp } from '../shell/set-up.ts';

/** Where a call goes: anything that exists, or a queue or an outside number made right here. */
const props = defineProps<{
  id: string;
  label: string;
  none?: string | undefined;
  makeQueue?: boolean;
  readonly?: boolean;
  without?: string;
  /** Choices that are no destination; which of them is chosen stands beside the model. */
  also?: { value: string; title: string }[];
  alsoChosen?: string | null;
}>();
const emit = defineEmits<{ also: [value: string] }>();
const model = defineModel<Destination | null>({ required: true });
const setUp = useSetUp();
const search = ref('');
const naming = ref<'queue' | 'plan' | 'outside' | 'room' | 'fax' | null>(null);
const name = ref('');
const digits = ref('');
const fault = ref('');

const kindWords = {
  queue: 'Queue',
  person: 'Person',
  voicemail: 'Voicemail',
  outside: 'Outside number',
  room: 'Conference room',
  fax: 'Fax box',
  number: 'Another number of ours',
  plan: 'Answering plan',
};

const items = computed(() => [
  ...(props.none === undefined ? [] : [{ value: 'none', title: props.none }]),
  ...(props.also ?? []),
  ...setUp.destinations
    .filter((each) => each.id !== props.without)
    .map((each) => ({
      value: `${each.kind} ${each.id}`,
      title: each.kind === 'person' ? `${each.name}, ${each.extension ?? ''}` : each.name,
      props: { subtitle: kindWords[each.kind] },
    })),
  { value: 'end', title: 'Say that nobody can take the call' },
  ...(props.makeQueue === true
    ? [
        { value: 'make queue', title: 'Make a new queue …' },
        { value: 'make plan', title: 'Make a new answering plan …' },
        { value: 'make outside', title: 'Make a new outside number …' },
        { value: 'make room', title: 'Make a new conference room …' },
        { value: 'make fax', title: 'Make a new fax box …' },
      ]
    : []),
]);

const value = computed(() => {
  if (props.alsoChosen != null) return props.alsoChosen;
  if (model.value === null) return props.none === undefined ? null : 'none';
  return model.value.kind === 'end' ? 'end' : `${model.value.kind} ${model.value.id}`;
});

function choose(chosen: string | null): void {
  if (chosen === null || chosen === 'none') model.value = null;
  else if (props.also?.some((each) => each.value === chosen) === true) emit('also', chosen);
  else if (chosen === 'end') model.value = { kind: 'end' };
  else if (chosen.startsWith('make ')) {
    naming.value = chosen.slice(5) as typeof naming.value;
    name.value = '';
    digits.value = '';
  } else {
    const [kind, id] = chosen.split(' ') as [keyof typeof kindWords, string];
    model.value = { kind, id };
  }
}

const makers = { queue: '/api/queues', room: '/api/rooms', fax: '/api/fax-boxes' } as const;
/** The plan that a new one begins as. */
const template = ref('');
const templates = [{ key: '', name: 'with no steps yet' }, ...planTemplates];
const documentOf = (key: string) => planTemplates.find((each) => each.key === key)?.document ?? emptyDocument;
const thing = computed(() => (naming.value === null ? '' : kindWords[naming.value].toLowerCase()));
const begin = () => void making(make());

async function make(): Promise<void> {
  fault.value = '';
  const kind = naming.value!;
  try {
    const made: { id: string } =
      kind === 'outside'
        ? await ask(api.POST('/api/outside-numbers', { body: { name: name.value, e164: digits.value } }))
        : kind === 'plan'
          ? await planApi.create({ name: name.value, document: documentOf(template.value) })
          : await ask(api.POST(makers[kind] as '/api/rooms', { body: { name: name.value } }));
    await setUp.load();
    model.value = { kind, id: made.id };
    naming.value = null;
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.detail : 'That did not work. Try again.';
  }
}
</script>

<template>
  <div>
    <v-autocomplete
      :id="id"
      v-model:search="search"
      :aria-label="label"
      :model-value="value"
      :items="items"
      :readonly="readonly"
      auto-select-first
      @update:model-value="choose"
    />
    <div v-if="naming" class="make">
      <input
        v-model="name"
        :aria-label="`Name of the new ${thing}`"
        :placeholder="`Name of the new ${thing}`"
        @keydown.enter.prevent="begin"
      />
      <input
        v-if="naming === 'outside'"
        v-model="digits"
        class="mono"
        aria-label="The outside number"
        placeholder="+1 425 555 0120"
        @keydown.enter.prevent="begin"
      />
      <select v-if="naming === 'plan'" v-model="template" aria-label="How the new plan begins">
        <option v-for="each in templates" :key="each.key" :value="each.key">{{ each.name }}</option>
      </select>
      <button class="link" type="button" @click="begin">Make it</button>
      <button class="link" type="button" @click="naming = null">Leave it</button>
      <p class="small" :class="fault === '' ? 'second' : 'fault-text'">
        {{
          fault !== ''
            ? fault
            : naming === 'queue'
              ? 'Members are added on the queue afterwards.'
              : naming === 'plan'
                ? 'Its steps are built under Answering. Until it is published callers cannot be answered.'
                : naming === 'outside'
                  ? 'It is dialled over the trunks of the dialling rules.'
                  : 'Extension and more are set under Destinations afterwards.'
        }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.make {
  background: var(--wash);
  padding: 6px 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}
.make input {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  flex: 1;
  min-width: 140px;
}
p {
  width: 100%;
}
</style>

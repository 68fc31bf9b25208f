<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Destination } from '@night-bell/core/model/destination';
import { api, ApiProblem, ask } from '../api/client.ts';
import { emptyDocument } from '@night-bell/core/plan/document';
import { planTemplates } from '@night-bell/core/plan/templates';
import { planApi } from '../api/plans.ts';
import { making } from './making.ts';
import MembersField from './MembersField.vue';
import { type DirectoryEntry, useDirectory } from '../shell/directory.ts';
import { kindWords, useFinding } from './finding.ts';

/** Where a call goes: anything that exists, or a queue, a ring group or an outside number made right here. */
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
const directory = useDirectory();
/** What can be made right here. */
const made = ['queue', 'ringGroup', 'plan', 'outside', 'room', 'fax'] as const;
type Made = (typeof made)[number];
const naming = ref<Made | null>(null);
const name = ref('');
const digits = ref('');
/** Who takes the calls of a queue, or is rung in a group, that is made here. */
const members = ref<string[]>([]);
const fault = ref('');

const kinds = [
  'queue',
  'ringGroup',
  'plan',
  'voicemail',
  'outside',
  'room',
  'fax',
  'number',
  'person',
] as const;
const titleOf = (entry: DirectoryEntry) =>
  entry.kind === 'person' ? `${entry.name}, ${entry.extension ?? ''}` : entry.name;
const endWords = 'Say that nobody can take the call';

const chosenEntry = computed(() =>
  model.value === null || model.value.kind === 'end' ? null : directory.entry(model.value.id),
);
const chosenTitle = computed(() => {
  const also = props.also?.find((each) => each.value === props.alsoChosen);
  if (also !== undefined) return also.title;
  if (model.value === null) return props.none ?? '';
  if (model.value.kind === 'end') return endWords;
  return chosenEntry.value === null ? '' : titleOf(chosenEntry.value);
});
const { search, open, typed, found, looking } = useFinding(
  () => kinds,
  () => chosenTitle.value,
);

/** Those that are no things are found by their words too. */
const fits = ({ title }: { title: string }) => title.toLowerCase().includes(typed.value.trim().toLowerCase());
const makes = computed(() => {
  if (props.makeQueue !== true || looking.value) return [];
  const named = typed.value.trim();
  if (found.value.some(({ name }) => name.toLowerCase() === named.toLowerCase())) return [];
  return made.map((kind) => ({
    value: `make ${kind}`,
    title:
      named === ''
        ? `Make a new ${kindWords[kind]!.toLowerCase()} …`
        : `Make the ${kindWords[kind]!.toLowerCase()} “${named}” …`,
  }));
});
const items = computed(() => {
  const chosen = chosenEntry.value;
  const missing = chosen !== null && !found.value.some(({ id }) => id === chosen.id);
  return [
    ...(props.none === undefined ? [] : [{ value: 'none', title: props.none }].filter(fits)),
    ...(props.also ?? []).filter(fits),
    ...[...(missing ? [chosen] : []), ...found.value]
      .filter((entry) => entry.id !== props.without)
      .map((entry) => ({
        value: `${entry.kind} ${entry.id}`,
        title: titleOf(entry),
        props: { subtitle: kindWords[entry.kind] },
      })),
    ...[{ value: 'end', title: endWords }].filter(fits),
    ...makes.value,
  ];
});

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
    // What was typed in vain is the name of what is made.
    name.value = typed.value.trim();
    digits.value = '';
    members.value = [];
  } else {
    const [kind, id] = chosen.split(' ') as [(typeof kinds)[number], string];
    model.value = { kind, id };
  }
}

/** The plan that a new one begins as. */
const template = ref('');
const templates = [{ key: '', name: 'with no steps yet' }, ...planTemplates];
const documentOf = (key: string) => planTemplates.find((each) => each.key === key)?.document ?? emptyDocument;
const thing = computed(() => (naming.value === null ? '' : kindWords[naming.value]!.toLowerCase()));
const begin = () => void making(make());

/** The people and teams chosen, as a ring group has them; how long each rings is as usual. */
const rung = () =>
  members.value.map(
    (id) => ({ kind: directory.entry(id)?.kind === 'team' ? 'team' : 'person', id }) as const,
  );

const makers: Record<Made, (called: string) => Promise<{ id: string }>> = {
  queue: (called) => ask(api.POST('/api/queues', { body: { name: called, members: members.value } })),
  ringGroup: (called) => ask(api.POST('/api/ring-groups', { body: { name: called, targets: rung() } })),
  plan: (called) => planApi.create({ name: called, document: documentOf(template.value) }),
  outside: (called) => ask(api.POST('/api/outside-numbers', { body: { name: called, e164: digits.value } })),
  room: (called) => ask(api.POST('/api/rooms', { body: { name: called } })),
  fax: (called) => ask(api.POST('/api/fax-boxes', { body: { name: called } })),
};
const placeSaid = 'Extension and more are set under Destinations afterwards.';
/** What is set elsewhere afterwards. */
const said: Record<Made, string> = {
  queue: 'With a voicemail box of its own. How long each is rung, and more, is set on the queue.',
  ringGroup:
    'All at once, 20 s each, with a voicemail box of its own. In turn, and more, is set on the group.',
  plan: 'Its steps are built under Answering. Until it is published callers cannot be answered.',
  outside: 'It is dialled over the trunks of the dialling rules.',
  ...{ room: placeSaid, fax: placeSaid },
};

async function make(): Promise<void> {
  fault.value = '';
  const kind = naming.value!;
  try {
    const { id } = await makers[kind](name.value);
    model.value = { kind, id };
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
      v-model:menu="open"
      :aria-label="label"
      :model-value="value"
      :items="items"
      :readonly="readonly"
      no-filter
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
      <MembersField
        v-if="naming === 'queue' || naming === 'ringGroup'"
        v-model="members"
        class="members"
        field="newMembers"
        :empty="
          naming === 'queue'
            ? 'Nobody yet. Callers would wait for nobody.'
            : 'Nobody yet. It would ring nobody.'
        "
      />
      <button class="link" type="button" @click="begin">Make it</button>
      <button class="link" type="button" @click="naming = null">Leave it</button>
      <p class="small" :class="fault === '' ? 'second' : 'fault-text'">
        {{ fault === '' ? said[naming] : fault }}
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
.members,
p {
  width: 100%;
}
</style>

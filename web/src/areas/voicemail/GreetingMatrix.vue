<script setup lang="ts">
import { computed } from 'vue';
import { defaultSounds } from '@night-bell/core/sound/defaults';
import { greetingFor, type Greetings } from '@night-bell/core/voicemail/greeting';
import { standingAt } from '@night-bell/core/hours/opening-hours';
import Shape from '../../kit/Shape.vue';
import { useCollection } from '../../shell/collection.ts';
import { useLive } from '../../shell/live.ts';
import { compiled, hoursApi } from '../hours/words.ts';
import { promptApi } from '../prompts/words.ts';

/** Which prompt greets whom, by the hours and by who calls; the cell that speaks now is marked. */
const props = defineProps<{ hoursId: string | null; readonly: boolean; fault?: string | undefined }>();
const emit = defineEmits<{ hours: [id: string | null] }>();
const model = defineModel<Greetings>({ required: true });
const prompts = useCollection(promptApi);
const sets = useCollection(hoursApi);
const live = useLive();

type When = keyof Greetings;
type Who = 'outside' | 'inside';
const whos: { value: Who; title: string }[] = [
  { value: 'outside', title: 'From outside' },
  { value: 'inside', title: 'A colleague' },
];
const hours = computed(() => {
  const set = sets.byId.value.get(props.hoursId ?? '');
  return set === undefined ? undefined : compiled(set);
});
const rows = computed<When[]>(() => (props.hoursId === null ? ['open'] : ['open', 'closed']));
const now = computed<When>(() =>
  hours.value === undefined || standingAt(hours.value, live.now).state === 'open' ? 'open' : 'closed',
);
const choices = computed(() => [
  ...(prompts.items.value ?? [])
    .filter((each) => !each.retired && each.translationOf === null && each.kind === 'voicemailGreeting')
    .map(({ id, name }) => ({ value: id, title: name })),
]);
const setChoices = computed(() => [
  { value: null, title: 'always open' },
  ...(sets.items.value ?? [])
    .filter(({ retired }) => !retired)
    .map(({ id, name }) => ({ value: id, title: name })),
]);

/** What an empty cell says instead. */
function instead(when: When, who: Who): string {
  if (when === 'open' && who === 'outside')
    return `the default, ${defaultSounds.voicemailGreeting.seconds} s`;
  // Asked of the rule itself, at an instant of that row.
  const at = { open: model.value.open, closed: model.value.closed };
  const said = greetingFor({ ...at, [when]: { ...at[when], [who]: null } }, undefined, who === 'inside', 0);
  if (when === 'closed')
    return model.value.closed.outside !== null && who === 'inside' ? 'as outside' : 'as open';
  return said.promptId === null ? 'the default' : 'as outside';
}
function put(when: When, who: Who, id: string | null): void {
  model.value = { ...model.value, [when]: { ...model.value[when], [who]: id } };
}
const secondsOf = (id: string | null) => prompts.byId.value.get(id ?? '')?.seconds ?? null;
const unheard = (id: string | null) => {
  const prompt = prompts.byId.value.get(id ?? '');
  return prompt !== undefined && prompt.heard === null;
};
</script>

<template>
  <div class="greetings">
    <p>
      <b>Greetings</b> by the hours of
      <v-select
        :model-value="hoursId"
        :items="setChoices"
        :readonly="readonly"
        aria-label="Opening hours that the greetings follow"
        class="set"
        @update:model-value="emit('hours', $event)"
      />
    </p>
    <table>
      <thead>
        <tr>
          <td></td>
          <th v-for="who in whos" :key="who.value" scope="col" class="second">{{ who.title }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="when in rows" :key="when">
          <th scope="row">
            <template v-if="hoursId !== null"
              ><Shape :name="when === 'open' ? 'open' : 'closed'" />
              {{ when === 'open' ? 'Open' : 'Closed' }}</template
            ><template v-else>Always</template>
          </th>
          <td v-for="who in whos" :key="who.value" :class="{ now: when === now && who.value === 'outside' }">
            <v-select
              :model-value="model[when][who.value]"
              :items="[{ value: null, title: instead(when, who.value) }, ...choices]"
              :readonly="readonly"
              :class="{ instead: model[when][who.value] === null }"
              :aria-label="`Greeting while ${when}, ${who.title.toLowerCase()}`"
              @update:model-value="put(when, who.value, $event)"
            />
            <span class="small second">
              <span v-if="unheard(model[when][who.value])" class="fault-text"
                ><Shape name="fault" /> no sound yet</span
              >
              <span v-else-if="secondsOf(model[when][who.value]) !== null" class="mono"
                >{{ secondsOf(model[when][who.value]) }} s</span
              >
              <span v-if="when === now && who.value === 'outside'" class="plays"> plays now</span>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="fault" class="small fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
    <p v-if="choices.length === 0" class="small second">
      There is no prompt of the kind voicemail greeting yet.
      <router-link to="/prompts/new">Write one</router-link>
    </p>
  </div>
</template>

<style scoped>
.greetings {
  margin: 8px 0 12px;
}
.set {
  display: inline-block;
  width: 170px;
  vertical-align: middle;
}
table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  margin-top: 4px;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 4px 6px;
  vertical-align: top;
}
tr > :first-child {
  width: 74px;
  padding-left: 0;
}
td {
  padding: 2px 6px 6px;
  border-top: 1px solid var(--rule);
}
tbody th {
  border-top: 1px solid var(--rule);
  padding-top: 7px;
}
.instead :deep(.v-select__selection) {
  color: var(--ink2);
}
td.now {
  background: var(--sel);
}
.plays {
  color: var(--teal);
}
</style>

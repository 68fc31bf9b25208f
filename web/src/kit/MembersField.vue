<script setup lang="ts">
import { computed, ref } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import AddField from './AddField.vue';
import Shape from './Shape.vue';
import { useLive } from '../shell/live.ts';
import { useDirectory } from '../shell/directory.ts';
import { useForm } from './form.ts';
import SentenceField from './SentenceField.vue';
import { secondOf, useFinding } from './finding.ts';
import { useSetUp } from '../shell/set-up.ts';
import TakeOut from './TakeOut.vue';

/** People and teams in order: a queue's members, who hears a box. */
const props = defineProps<{
  /** Where faults say they are: 'members'. */
  field: string;
  /** What it means that nobody is named. */
  empty: string;
}>();
const model = defineModel<string[]>({ required: true });
/** Those who have a later turn than the first, where members have turns. */
const turns = defineModel<{ memberId: string; turn: number }[]>('turns');
/** Those who may be rung only once a caller has waited so long, where members can join late. */
const joins = defineModel<{ memberId: string; afterSeconds: number }[]>('joins');
const form = useForm();
const setUp = useSetUp();
const live = useLive();

const asked = ref(false);
const inTurns = computed(() => asked.value || (turns.value ?? []).length > 0);
const placeOf = (id: string) => turns.value?.findIndex(({ memberId }) => memberId === id) ?? -1;
const turnOf = (id: string) => turns.value?.find(({ memberId }) => memberId === id)?.turn ?? 1;
function setTurn(id: string, turn: string | number | null): void {
  const others = (turns.value ?? []).filter(({ memberId }) => memberId !== id);
  turns.value = turn === 1 ? others : [...others, { memberId: id, turn: turn as number }];
  asked.value = true;
}
const isLate = ref(false);
const joinLate = computed(() => isLate.value || (joins.value ?? []).length > 0);
const joinOf = (id: string) => joins.value?.findIndex(({ memberId }) => memberId === id) ?? -1;
const joinsAfter = (id: string) => joins.value?.[joinOf(id)]?.afterSeconds ?? 0;
function setJoin(id: string, seconds: string | number | null): void {
  const others = (joins.value ?? []).filter(({ memberId }) => memberId !== id);
  joins.value =
    seconds === 0 || seconds === '' ? others : [...others, { memberId: id, afterSeconds: seconds as number }];
  isLate.value = true;
}
function takeOut(id: string): void {
  model.value = model.value.filter((each) => each !== id);
  if (joinOf(id) >= 0) joins.value = joins.value?.filter(({ memberId }) => memberId !== id);
  if (placeOf(id) >= 0) turns.value = turns.value?.filter(({ memberId }) => memberId !== id);
}
const faultAt = (id: string, index: number) =>
  form.value.faults[`/${props.field}/${index}`] ??
  form.value.faults[`/turns/${placeOf(id)}/turn`] ??
  form.value.faults[`/turns/${placeOf(id)}`] ??
  form.value.faults[`/joins/${joinOf(id)}/afterSeconds`] ??
  form.value.faults[`/joins/${joinOf(id)}`];

const directory = useDirectory();
const { search, open, found } = useFinding(
  () => ['team', 'person'],
  () => '',
);
const sizeOf = (teamId: string) => setUp.teams.find((each) => each.id === teamId)?.people ?? 0;

const choices = computed(() =>
  found.value
    .filter(({ id }) => !model.value.includes(id))
    .map((entry) => ({
      value: entry.id,
      title: entry.name,
      props: { subtitle: entry.kind === 'team' ? `Team of ${sizeOf(entry.id)}` : secondOf(entry) },
    })),
);

const isPerson = (id: string) => directory.entry(id)?.kind === 'person';
function second(id: string): string {
  const entry = directory.entry(id);
  if (entry === null) return '';
  if (entry.kind === 'team') return `team of ${sizeOf(id)}`;
  return entry.retired ? 'deactivated' : (entry.extension ?? '');
}
</script>

<template>
  <div>
    <VueDraggable v-model="model" tag="ul" handle=".handle" :disabled="form.readonly">
      <li v-for="(id, index) in model" :key="id">
        <span class="mono second handle" :title="form.readonly ? '' : 'Drag to reorder'">{{
          index + 1
        }}</span>
        <Shape v-if="isPerson(id)" :name="live.agents.get(id)?.state ?? 'signedOut'" />
        <span v-else></span>
        <span>{{ directory.nameOf(id) }}</span>
        <span class="second small">
          {{ second(id) }}
          <label v-if="joinLate" class="turn">
            from
            <SentenceField
              :model-value="joinsAfter(id)"
              :field="`joins/${joinOf(id)}/afterSeconds`"
              :label="`Seconds of waiting after which ${directory.nameOf(id)} may be rung`"
              :size="3"
              @update:model-value="setJoin(id, $event)"
            />
            s
          </label>
          <label v-if="inTurns" class="turn">
            turn
            <SentenceField
              :model-value="turnOf(id)"
              :field="`turns/${placeOf(id)}/turn`"
              :label="`Turn of ${directory.nameOf(id)}`"
              :size="1"
              @update:model-value="setTurn(id, $event)"
            />
          </label>
        </span>
        <TakeOut v-if="!form.readonly" :what="`Take ${directory.nameOf(id)} out`" @click="takeOut(id)" />
        <p v-if="faultAt(id, index)" class="fault-text small">
          <Shape name="fault" /> {{ faultAt(id, index) }}
        </p>
      </li>
    </VueDraggable>
    <p v-if="model.length === 0" class="second">{{ empty }}</p>
    <AddField
      v-if="!form.readonly"
      v-model:search="search"
      v-model:menu="open"
      no-filter
      :items="choices"
      label="Add a person or a team"
      @add="model = [...model, $event]"
    />
    <template v-if="turns !== undefined && model.length > 1">
      <p v-if="inTurns" class="second small turns">
        Turn 1 is rung first; a later one only when nobody of an earlier one can be.
      </p>
      <button v-else-if="!form.readonly" class="link small turns" type="button" @click="asked = true">
        Ring some only when nobody else can be
      </button>
    </template>
    <template v-if="joins !== undefined && model.length > 1">
      <p v-if="joinLate" class="second small turns">
        Seconds are those the caller has waited; 0 is from the beginning.
      </p>
      <button v-else-if="!form.readonly" class="link small turns" type="button" @click="isLate = true">
        Let some join later in the wait
      </button>
    </template>
  </div>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 20px 14px 1fr auto 24px;
  gap: 6px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 26px;
}
.handle {
  cursor: grab;
  text-align: right;
}
.turns {
  margin-top: 6px;
}
.turn {
  margin-left: 8px;
  white-space: nowrap;
}
li p {
  grid-column: 2 / -1;
}
</style>

<script setup lang="ts">
import { computed } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import AddField from './AddField.vue';
import Shape from './Shape.vue';
import { useLive } from '../shell/live.ts';
import { useDirectory } from '../shell/directory.ts';
import { useForm } from './form.ts';
import { secondOf, useFinding } from './finding.ts';
import { useSetUp } from '../shell/set-up.ts';
import TakeOut from './TakeOut.vue';

/** People and teams in order: a queue's members, who hears a box. */
defineProps<{
  /** Where faults say they are: 'members'. */
  field: string;
  /** What it means that nobody is named. */
  empty: string;
}>();
const model = defineModel<string[]>({ required: true });
const form = useForm();
const setUp = useSetUp();
const live = useLive();

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
        <span class="second small">{{ second(id) }}</span>
        <TakeOut
          v-if="!form.readonly"
          :what="`Take ${directory.nameOf(id)} out`"
          @click="model = model.filter((each) => each !== id)"
        />
        <p v-if="form.faults[`/${field}/${index}`]" class="fault-text small">
          <Shape name="fault" /> {{ form.faults[`/${field}/${index}`] }}
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
li p {
  grid-column: 2 / -1;
}
</style>

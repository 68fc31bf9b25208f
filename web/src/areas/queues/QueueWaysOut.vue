<script setup lang="ts">
import { computed } from 'vue';
import type { QueueRequest, QueueView } from '@night-bell/core/contracts/queues';
import type { WayOut } from '@night-bell/core/model/waiting';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import DestinationLine from '../../kit/DestinationLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import SentenceField from '../../kit/SentenceField.vue';
import { useForm } from '../../kit/form.ts';
import { waitingKeys } from './words.ts';

/** Where callers go whom nobody takes: a limit that was met, nobody there, or a key of their own. */
const props = defineProps<{
  item: QueueView | null;
  hours: readonly { value: string | null; title: string }[];
}>();
const draft = defineModel<QueueRequest>({ required: true });
const form = useForm();

const fields = {
  queueFull: 'whenFull',
  waitedTooLong: 'whenTooLong',
  nobodySignedIn: 'whenNobody',
  allAway: 'whenAllAway',
  closed: 'whenClosed',
  pressed: 'whenLeaves',
} as const;
/** A way out may take the time waited along only to another queue. */
const leadsToQueue = (way: WayOut) => draft.value[fields[way]]?.kind === 'queue';
const keeps = (way: WayOut) => draft.value.keepsTime.includes(way);
function keep(way: WayOut, on: boolean): void {
  const others = draft.value.keepsTime.filter((each) => each !== way);
  draft.value.keepsTime = on ? [...others, way] : others;
}
const rows = computed(() =>
  (
    [
      { way: 'queueFull', label: 'When full', shown: draft.value.maxWaiting !== null },
      { way: 'waitedTooLong', label: 'Waited too long', shown: draft.value.maxWaitSeconds !== null },
      {
        ...{ way: 'nobodySignedIn', label: 'Nobody in', said: 'When nobody is signed in', shown: true },
        none: 'Let them wait',
      },
      {
        ...{ way: 'allAway', label: 'All away', said: 'When all who are signed in are away', shown: true },
        none: 'Let them wait',
      },
      {
        ...{ way: 'closed', label: 'While closed', hint: 'Nobody new enters then.' },
        ...{ none: 'Told that nobody can take the call', shown: draft.value.hoursId !== null },
      },
      {
        ...{ way: 'pressed', label: 'By the key', said: 'Where the key leads' },
        shown: draft.value.leaveKey !== null,
      },
    ] as {
      way: WayOut;
      label: string;
      said?: string;
      hint?: string;
      none?: string;
      shown: boolean;
    }[]
  ).filter(
    // Those that lead to the queue's own box, while it is made, are said in a sentence.
    ({ way, shown }) =>
      shown && (props.item !== null || way === 'closed' || way === 'allAway' || way === 'pressed'),
  ),
);
const atClosing = [
  { value: 'serve', title: 'who waits is served' },
  { value: 'sendOn', title: 'who waits goes there too' },
];
/** Turned away in so many words: it is never what happens by itself. */
const cutsOff = computed(() => rows.value.filter(({ way }) => draft.value[fields[way]]?.kind === 'end'));
</script>

<template>
  <section>
    <h3>Ways out</h3>
    <FormSentence :fields="['maxWaiting', 'maxWaitSeconds']">
      At most
      <SentenceField v-model="draft.maxWaiting" field="maxWaiting" label="Callers that may wait" any />
      callers wait, each at most
      <SentenceField
        v-model="draft.maxWaitSeconds"
        field="maxWaitSeconds"
        label="Longest wait in seconds"
        any
      />
      s.
    </FormSentence>
    <p v-if="item === null" class="second">
      Callers beyond these limits, by the key, and when nobody is signed in, leave a message in the queue's
      own voicemail box. This can be changed once it is made.
    </p>
    <ChoiceLine v-model="draft.leaveKey" field="leaveKey" label="A key to leave" :items="waitingKeys" />
    <ChoiceLine v-model="draft.hoursId" field="hoursId" label="Hours" :items="hours" />
    <template v-for="row in rows" :key="row.way">
      <DestinationLine
        v-if="draft[fields[row.way]] !== undefined"
        :model-value="draft[fields[row.way]] ?? null"
        :field="fields[row.way]"
        :label="row.label"
        :without="item?.id ?? ''"
        v-bind="{
          ...(row.said === undefined ? {} : { said: row.said }),
          ...(row.hint === undefined ? {} : { hint: row.hint }),
          ...(row.none === undefined ? {} : { none: row.none }),
        }"
        @update:model-value="draft[fields[row.way]] = $event as never"
      />
      <v-checkbox
        v-if="leadsToQueue(row.way)"
        class="keeps"
        :model-value="keeps(row.way)"
        label="The time waited counts on there"
        :readonly="form.readonly"
        @update:model-value="keep(row.way, $event === true)"
      />
    </template>
    <ChoiceLine
      v-if="draft.hoursId !== null"
      v-model="draft.atClosing"
      field="atClosing"
      label="At closing"
      :items="atClosing"
    />
    <p v-if="cutsOff.length > 0" class="second small">
      {{ cutsOff.map(({ label }) => label).join(', ') }}: these callers hear that nobody can take the call,
      and it ends.
    </p>
  </section>
</template>

<style scoped>
.keeps {
  margin: -4px 0 4px 112px;
}
</style>

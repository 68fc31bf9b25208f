<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, ifMatch, type Queue, type UsedBy } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import DestinationField from '../../kit/DestinationField.vue';
import { useEditing } from '../../kit/editing.ts';
import FormEnd from '../../kit/FormEnd.vue';
import HistoryList from '../../kit/HistoryList.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Sheet from '../../kit/Sheet.vue';
import UsedByList from '../../kit/UsedByList.vue';
import { useCollection } from '../../shell/collection.ts';
import { hoursApi } from '../hours/words.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import OutcomesField from '../../kit/OutcomesField.vue';
import SkillsField from '../../kit/SkillsField.vue';
import ScriptField from '../../kit/ScriptField.vue';
import MembersField from '../../kit/MembersField.vue';
import { queueWords, showQueue } from './words.ts';

type Draft = Omit<Queue, 'id' | 'version' | 'retired' | 'voicemailBoxId' | 'peopleCount'>;

const props = defineProps<{ queue: Queue | null }>();
const emit = defineEmits<{ close: []; made: [queue: Queue] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const act = useActing();
const live = useLive();
const tab = ref(0);
const users = ref<UsedBy[]>([]);
const sets = useCollection(hoursApi);
const hoursChoices = computed(() => [
  { value: null, title: 'always open' },
  ...(sets.items.value ?? [])
    .filter(({ retired, id }) => !retired || id === draft.value?.hoursId)
    .map(({ id, name }) => ({ value: id, title: name })),
]);
const show = showQueue((id) => sets.byId.value.get(id)?.name ?? setUp.nameOf(id));
const now = computed(() => (props.queue === null ? undefined : live.queues.get(props.queue.id)));

/** A new queue's callers go to its own voicemail box, which is made with it: those fields are left open. */
const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    if (props.queue === null) {
      const { whenFull: _full, whenTooLong: _long, whenNobody: _nobody, ...rest } = value;
      const queue = await ask(api.POST('/api/queues', { body: rest }));
      await setUp.load();
      notices.say(`${queue.name} is made, with a voicemail box of its own.`);
      emit('made', queue as Queue);
      return;
    }
    const params = { path: { id: props.queue.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/queues/{id}', { params, body: value }));
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.queue.id);
  });

function draftOf(queue: Queue | null): Draft {
  if (queue === null) {
    const end = { kind: 'end' } as const;
    return {
      name: '',
      extension: null,
      priority: 0,
      ringSeconds: 15,
      wrapUpSeconds: 20,
      members: [],
      skills: [],
      maxWaiting: null,
      whenFull: end,
      maxWaitSeconds: 300,
      whenTooLong: end,
      whenNobody: null,
      hoursId: null,
      whenClosed: null,
      atClosing: 'serve',
      preferOwner: false,
      script: '',
      outcomes: [],
    };
  }
  const {
    id: _id,
    version: _version,
    retired: _retired,
    voicemailBoxId: _box,
    peopleCount: _count,
    ...rest
  } = queue;
  return rest;
}

watch(
  () => props.queue,
  (queue) => {
    if (!changed.value) begin(draftOf(queue), queue?.version ?? 0);
    if (queue === null) return;
    void ask(api.GET('/api/queues/{id}', { params: { path: { id: queue.id } } }))
      .then((answer) => (users.value = answer.usedBy))
      .catch(() => undefined);
  },
  { immediate: true },
);

const guarded = () => ({ params: { path: { id: props.queue!.id }, header: ifMatch(props.queue!.version) } });
const retire = () =>
  act(() => ask(api.POST('/api/queues/{id}/retire', guarded())), `${props.queue!.name} is deactivated.`);
const reactivate = () =>
  act(() => ask(api.POST('/api/queues/{id}/reactivate', guarded())), `${props.queue!.name} is back.`);

/** An empty field means no limit. */
function limit(text: string): number | null {
  return text.trim() === '' ? null : Number(text);
}
</script>

<template>
  <Sheet
    :fresh="queue === null"
    v-model:tab="tab"
    :title="queue?.name ?? 'New queue'"
    :second="
      queue === null
        ? 'With a voicemail box of its own'
        : queue.extension
          ? `Queue, extension ${queue.extension}`
          : 'Queue'
    "
    :tabs="queue === null ? [] : ['Queue', `Used by ${users.length}`, 'History']"
    @close="emit('close')"
  >
    <template v-if="now" #state>
      <b class="mono">{{ now.waiting + now.offering }}</b> waiting
      <p class="small second">{{ now.signedIn }} signed in, {{ now.idle }} free</p>
    </template>
    <template v-if="tab === 0 && draft">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="queueWords"
        :show="show"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Name" for="queue-name" :fault="faults['/name']">
            <v-text-field
              id="queue-name"
              v-model="draft.name"
              :readonly="!session.mayEdit"
              :autofocus="queue === null"
              autocomplete="off"
            />
          </LedgerField>
          <LedgerField label="Extension" for="queue-extension" :fault="faults['/extension']">
            <v-text-field
              id="queue-extension"
              class="mono"
              placeholder="none"
              :model-value="draft.extension ?? ''"
              :readonly="!session.mayEdit"
              @update:model-value="draft.extension = $event === '' ? null : $event"
            />
          </LedgerField>
        </section>
        <section>
          <h3>Members <span class="second small">longest idle is rung first</span></h3>
          <MembersField
            path="/members"
            empty="Nobody yet. Callers would wait for nobody."
            v-model="draft.members"
            :readonly="!session.mayEdit"
            :faults="faults"
          />
          <h3 class="outcomes">Asks for</h3>
          <SkillsField
            v-model="draft.skills as never"
            figure="minimum"
            none="No skill: every member is rung."
            :readonly="!session.mayEdit"
          />
        </section>
        <section>
          <p class="settings">
            Ring each for
            <input
              v-model.number="draft.ringSeconds"
              type="number"
              aria-label="Seconds each is rung"
              :readonly="!session.mayEdit"
            />
            s, then the next. After a call
            <input
              v-model.number="draft.wrapUpSeconds"
              type="number"
              aria-label="Seconds of wrap-up"
              :readonly="!session.mayEdit"
            />
            s of wrap-up. Served at priority
            <input
              v-model.number="draft.priority"
              type="number"
              aria-label="Priority from 0 to 9"
              :readonly="!session.mayEdit"
              class="narrow"
            />, larger first.
          </p>
          <p v-for="field in ['/ringSeconds', '/wrapUpSeconds', '/priority']" :key="field" class="fault-text">
            {{ faults[field] }}
          </p>
        </section>
        <section>
          <v-checkbox
            v-model="draft.preferOwner"
            :readonly="!session.mayEdit"
            label="Who looks after the caller's record is rung first, when free"
          />
        </section>
        <section>
          <h3>Limits, and what then</h3>
          <p class="settings">
            At most
            <input
              :value="draft.maxWaiting ?? ''"
              type="number"
              placeholder="any"
              aria-label="Callers that may wait"
              :readonly="!session.mayEdit"
              @input="draft.maxWaiting = limit(($event.target as HTMLInputElement).value)"
            />
            callers wait, each at most
            <input
              :value="draft.maxWaitSeconds ?? ''"
              type="number"
              placeholder="any"
              aria-label="Longest wait in seconds"
              :readonly="!session.mayEdit"
              @input="draft.maxWaitSeconds = limit(($event.target as HTMLInputElement).value)"
            />
            s.
          </p>
          <p v-for="field in ['/maxWaiting', '/maxWaitSeconds']" :key="field" class="fault-text">
            {{ faults[field] }}
          </p>
          <p v-if="queue === null" class="second">
            Callers beyond these limits, and when nobody is signed in, leave a message in the queue's own
            voicemail box. This can be changed once it is made.
          </p>
          <template v-else>
            <LedgerField
              v-if="draft.maxWaiting !== null"
              label="When full"
              for="queue-full"
              :fault="faults['/whenFull']"
            >
              <DestinationField
                id="queue-full"
                v-model="draft.whenFull as never"
                label="When full"
                :readonly="!session.mayEdit"
                :without="queue.id"
              />
            </LedgerField>
            <LedgerField
              v-if="draft.maxWaitSeconds !== null"
              label="Waited too long"
              for="queue-long"
              :fault="faults['/whenTooLong']"
            >
              <DestinationField
                id="queue-long"
                v-model="draft.whenTooLong as never"
                label="When the wait is too long"
                :readonly="!session.mayEdit"
                :without="queue.id"
              />
            </LedgerField>
            <LedgerField label="Nobody in" for="queue-nobody" :fault="faults['/whenNobody']">
              <DestinationField
                id="queue-nobody"
                v-model="draft.whenNobody"
                label="When nobody is signed in"
                none="Let them wait"
                :readonly="!session.mayEdit"
                :without="queue.id"
              />
            </LedgerField>
            <LedgerField label="Hours" for="queue-hours" :fault="faults['/hoursId']">
              <v-select
                id="queue-hours"
                v-model="draft.hoursId"
                :items="hoursChoices"
                :readonly="!session.mayEdit"
              />
            </LedgerField>
            <template v-if="draft.hoursId !== null">
              <LedgerField
                label="While closed"
                for="queue-closed"
                :fault="faults['/whenClosed']"
                hint="Nobody new enters then."
              >
                <DestinationField
                  id="queue-closed"
                  v-model="draft.whenClosed"
                  label="Where callers go while it is closed"
                  none="Told that nobody can take the call"
                  :readonly="!session.mayEdit"
                  :without="queue.id"
                />
              </LedgerField>
              <LedgerField label="At closing" for="queue-closing">
                <v-select
                  id="queue-closing"
                  v-model="draft.atClosing"
                  :items="[
                    { value: 'serve', title: 'who waits is served' },
                    { value: 'sendOn', title: 'who waits goes there too' },
                  ]"
                  :readonly="!session.mayEdit"
                />
              </LedgerField>
            </template>
          </template>
        </section>
        <section>
          <h3>What the agent reads</h3>
          <ScriptField
            id="queue-script"
            v-model="draft.script"
            :readonly="!session.mayEdit"
            :fault="faults['/script']"
          />
          <h3 class="outcomes">How a call may end</h3>
          <OutcomesField v-model="draft.outcomes" :readonly="!session.mayEdit" :faults="faults" />
          <FormEnd
            :general="general"
            :saving="saving"
            :changed="changed"
            :make="queue === null ? 'Make this queue' : null"
            @leave="queue === null ? emit('close') : begin(draftOf(queue), queue.version)"
          />
        </section>
      </form>
      <section v-if="queue !== null && session.mayEdit">
        <v-btn v-if="!queue.retired" @click="retire">Deactivate</v-btn>
        <v-btn v-else @click="reactivate">Reactivate</v-btn>
      </section>
    </template>
    <UsedByList
      v-else-if="tab === 1"
      :users="users"
      none="Nothing leads to this queue yet. Give a number this destination."
    />
    <HistoryList v-else-if="queue !== null" :item-id="queue.id" :words="queueWords" :show="show" />
  </Sheet>
</template>

<style scoped>
.settings {
  line-height: 28px;
}
.settings input {
  width: 48px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  padding: 0 2px;
  font-family: var(--mono) !important;
}
.settings .narrow {
  width: 32px;
}
.outcomes {
  margin-top: 12px;
}
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
</style>

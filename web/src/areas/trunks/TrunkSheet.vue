<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, ifMatch, type Trunk, type UsedBy } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import HistoryList from '../../kit/HistoryList.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Sheet from '../../kit/Sheet.vue';
import UsedByList from '../../kit/UsedByList.vue';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';

type Draft = Pick<Trunk, 'name' | 'host' | 'account' | 'channels'>;

const props = defineProps<{ trunk: Trunk | null }>();
const emit = defineEmits<{ close: []; made: [trunk: Trunk] }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const notices = useNotices();
const act = useActing();
const tab = ref(0);
const users = ref<UsedBy[]>([]);
const words = { name: 'Name', host: 'Provider', account: 'Account', channels: 'Channels' };
const show = (_field: string, value: unknown) => String(value);
const now = computed(() => live.trunks.get(props.trunk?.id ?? ''));
const reached = computed(() =>
  (setUp.people ?? []).filter((person) => person.outsideNumber?.trunkId === props.trunk?.id),
);

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    if (props.trunk === null) {
      const made = await ask(api.POST('/api/trunks', { body: value }));
      await setUp.load();
      notices.say(`${made.name} is made.`);
      emit('made', made);
      return;
    }
    const params = { path: { id: props.trunk.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/trunks/{id}', { params, body: value }));
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.trunk.id);
  });

function draftOf(trunk: Trunk | null): Draft {
  if (trunk === null) return { name: '', host: 'provider.example', account: '', channels: 30 };
  const { name, host, account, channels } = trunk;
  return { name, host, account, channels };
}

watch(
  () => props.trunk,
  (trunk) => {
    if (!changed.value) begin(draftOf(trunk), trunk?.version ?? 0);
    if (trunk === null) return;
    void ask(api.GET('/api/trunks/{id}', { params: { path: { id: trunk.id } } }))
      .then((answer) => (users.value = answer.usedBy))
      .catch(() => undefined);
  },
  { immediate: true },
);

const guarded = () => ({ params: { path: { id: props.trunk!.id }, header: ifMatch(props.trunk!.version) } });
const retire = () =>
  act(() => ask(api.POST('/api/trunks/{id}/retire', guarded())), `${props.trunk!.name} is deactivated.`);
const reactivate = () =>
  act(() => ask(api.POST('/api/trunks/{id}/reactivate', guarded())), `${props.trunk!.name} is back.`);
</script>

<template>
  <Sheet
    v-model:tab="tab"
    :title="trunk?.name ?? 'New trunk'"
    second="A line to a provider, chosen by name"
    :tabs="trunk === null ? [] : ['Trunk', `Used by ${users.length + reached.length}`, 'History']"
    @close="emit('close')"
  >
    <template v-if="now" #state>
      <b class="mono">{{ now.inUse }}</b> of <b class="mono">{{ trunk?.channels }}</b> in use
    </template>
    <template v-if="tab === 0 && draft">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="words"
        :show="show"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Name" for="trunk-name" :fault="faults['/name']">
            <v-text-field
              id="trunk-name"
              v-model="draft.name"
              :readonly="!session.mayEdit"
              :autofocus="trunk === null"
              autocomplete="off"
            />
          </LedgerField>
          <LedgerField
            label="Provider"
            for="trunk-host"
            :fault="faults['/host']"
            hint="provider.example is the stand-in that ships with Night Bell."
          >
            <v-text-field id="trunk-host" v-model="draft.host" class="mono" :readonly="!session.mayEdit" />
          </LedgerField>
          <LedgerField label="Account" for="trunk-account" :fault="faults['/account']">
            <v-text-field
              id="trunk-account"
              v-model="draft.account"
              class="mono"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
          <LedgerField
            label="Channels"
            for="trunk-channels"
            :fault="faults['/channels']"
            hint="Calls at once, in and out. The exchange never dials beyond them."
          >
            <v-text-field
              id="trunk-channels"
              v-model.number="draft.channels"
              class="mono"
              type="number"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
          <p v-if="general" class="fault-text" role="alert">{{ general }}</p>
          <div v-if="session.mayEdit && (changed || trunk === null)" class="buttons">
            <v-btn type="submit" variant="flat" color="primary" :loading="saving">{{
              trunk === null ? 'Make this trunk' : 'Save'
            }}</v-btn>
            <v-btn @click="trunk === null ? emit('close') : begin(draftOf(trunk), trunk.version)">{{
              trunk === null ? 'Leave it' : 'Leave as it was'
            }}</v-btn>
          </div>
        </section>
      </form>
      <section>
        <h3>What is sent</h3>
        <p class="second">
          Full numbers with + and country code (E.164), and one of the numbers held here as caller ID.
        </p>
      </section>
      <section v-if="trunk !== null && session.mayEdit">
        <v-btn v-if="!trunk.retired" @click="retire">Deactivate</v-btn>
        <v-btn v-else @click="reactivate">Reactivate</v-btn>
      </section>
    </template>
    <template v-else-if="tab === 1">
      <UsedByList :users="users" :none="reached.length > 0 ? '' : 'No campaign dials over this trunk yet.'" />
      <section v-if="reached.length > 0">
        <h3>Agents reached over it</h3>
        <ul>
          <li v-for="person in reached" :key="person.id">
            <router-link :to="`/people/${person.id}`">{{ person.name }}</router-link>
          </li>
        </ul>
      </section>
    </template>
    <HistoryList v-else-if="trunk !== null" :item-id="trunk.id" :words="words" :show="show" />
  </Sheet>
</template>

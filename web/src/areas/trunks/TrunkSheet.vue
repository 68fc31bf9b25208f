<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { api, ask, ifMatch, type Trunk, type UsedBy, type PersonRow } from '../../api/client.ts';
import { readPage } from '../../api/pages.ts';
import { useActing } from '../../kit/acting.ts';
import HistoryList from '../../kit/HistoryList.vue';
import Sheet from '../../kit/Sheet.vue';
import UsedByList from '../../kit/UsedByList.vue';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import TrunkForm from './TrunkForm.vue';
import TrunkLine from './TrunkLine.vue';
import { showTrunk, trunkWords } from './words.ts';

const props = defineProps<{ trunk: Trunk | null }>();
const emit = defineEmits<{ close: []; made: [trunk: Trunk] }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const act = useActing();
const tab = ref(0);
const users = ref<UsedBy[]>([]);
const now = computed(() => live.trunks.get(props.trunk?.id ?? ''));
/** Agents whose outside number goes over it. */
const reached = ref<PersonRow[]>([]);

watch(
  () => props.trunk,
  (trunk) => {
    if (trunk === null) return;
    void ask(api.GET('/api/trunks/{id}', { params: { path: { id: trunk.id } } }))
      .then((answer) => (users.value = answer.usedBy))
      .catch(() => undefined);
    void readPage<PersonRow>('/api/people', { reachedOver: trunk.id, sort: 'name' })
      .then(({ rows }) => (reached.value = rows))
      .catch(() => undefined);
  },
  { immediate: true },
);

const guarded = () => ({ params: { path: { id: props.trunk!.id }, header: ifMatch(props.trunk!.version) } });
const retire = () =>
  act(() => ask(api.POST('/api/trunks/{id}/retire', guarded())), `${props.trunk!.name} is deactivated.`);
const reactivate = () =>
  act(() => ask(api.POST('/api/trunks/{id}/reactivate', guarded())), `${props.trunk!.name} is back.`);

/** To the field where the secret is typed. */
async function toSecret(): Promise<void> {
  tab.value = 0;
  await nextTick();
  document.getElementById('trunk-secret')?.focus();
}
</script>

<template>
  <Sheet
    :fresh="trunk === null"
    v-model:tab="tab"
    :title="trunk?.name ?? 'New trunk'"
    second="A line to a provider, chosen by name"
    :tabs="
      trunk === null ? [] : ['Trunk', 'Line and trial', `Used by ${users.length + reached.length}`, 'History']
    "
    @close="emit('close')"
  >
    <template v-if="now" #state>
      <b class="mono">{{ now.inUse }}</b> of <b class="mono">{{ trunk?.channels }}</b> in use
    </template>
    <template v-if="tab === 0">
      <TrunkForm :trunk="trunk" @close="emit('close')" @made="emit('made', $event)" />
      <section v-if="trunk !== null && session.mayEdit">
        <v-btn v-if="!trunk.retired" @click="retire">Deactivate</v-btn>
        <v-btn v-else @click="reactivate">Reactivate</v-btn>
      </section>
    </template>
    <TrunkLine v-else-if="tab === 1 && trunk !== null" :trunk="trunk" @secret="toSecret" />
    <template v-else-if="tab === 2">
      <UsedByList
        :users="users"
        :none="reached.length > 0 ? '' : 'No campaign, rule or outside number goes over this trunk yet.'"
      />
      <section v-if="reached.length > 0">
        <h3>Agents reached over it</h3>
        <ul>
          <li v-for="person in reached" :key="person.id">
            <router-link :to="`/people/${person.id}`">{{ person.name }}</router-link>
          </li>
        </ul>
      </section>
    </template>
    <HistoryList
      v-else-if="trunk !== null"
      :item-id="trunk.id"
      :words="trunkWords"
      :show="showTrunk(setUp.nameOf)"
    />
  </Sheet>
</template>

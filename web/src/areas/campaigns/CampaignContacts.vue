<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { formatNumber } from '@night-bell/core/numbers/format';
import type { CallResult } from '@night-bell/core/story/facts';
import { api, ask, type Campaign, type Contact } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import Narrowing from '../../kit/Narrowing.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import SaveList from '../../kit/SaveList.vue';
import { useClock } from '../../kit/time.ts';
import { resultOf } from '@night-bell/core/story/words';
import { contactWords } from '../../kit/words.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import ImportSheet from './ImportSheet.vue';

const props = defineProps<{ campaign: Campaign }>();
const live = useLive();
const session = useSession();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const { moment } = useClock();
const contacts = ref<Contact[] | null>(null);
const more = ref(false);
const importing = ref(false);
const dropped = ref<File | null>(null);
const find = ref('');
const page = 200;

const state = computed({
  get: () => (route.query.state as string | undefined) ?? null,
  set: (value: string | null) =>
    void router.replace({ query: { ...route.query, state: value ?? undefined } }),
});

async function read(behind?: number): Promise<Contact[]> {
  const query = {
    limit: page,
    ...(state.value === null ? {} : { state: state.value as 'due' }),
    ...(find.value === '' ? {} : { text: find.value }),
    ...(behind === undefined ? {} : { behind }),
  };
  const params = { path: { id: props.campaign.id }, query };
  return ask(api.GET('/api/campaigns/{id}/contacts', { params }));
}

async function load(): Promise<void> {
  try {
    contacts.value = await read();
    more.value = contacts.value.length === page;
  } catch (error) {
    notices.fail(error);
  }
}
let fetching = false;
async function loadMore(): Promise<void> {
  const last = contacts.value?.at(-1);
  if (!more.value || fetching || last === undefined) return;
  fetching = true;
  const next = await read(last.position).catch(() => []);
  contacts.value = [...(contacts.value ?? []), ...next];
  more.value = next.length === page;
  fetching = false;
}
watch([state, find, () => props.campaign.contacts], load, { immediate: true });
// The first page moves while the campaign dials; farther down one looks in peace.
watch(
  () => live.endedCalls,
  () => {
    if ((contacts.value?.length ?? 0) <= page) void load();
  },
);

const columns = computed(() => (importing.value ? allColumns.value.slice(0, 4) : allColumns.value));
const allColumns = computed(() => [
  { key: 'name', title: 'Name' },
  { key: 'number', title: 'Number', width: '142px', mono: true },
  { key: 'state', title: 'State', width: '108px' },
  { key: 'attempts', title: 'Tries', width: '52px', mono: true, right: true },
  { key: 'last', title: 'Last', width: '206px' },
  { key: 'due', title: 'Due', width: '134px', mono: true },
  { key: 'zone', title: 'Clock', width: '104px' },
  ...props.campaign.fields.slice(0, 1).map((key) => ({ key: `field_${key}`, title: key.replace(/_/g, ' ') })),
]);
const zone = (contact: Contact) =>
  contact.zones.length === 0
    ? 'unknown'
    : contact.zones.length > 2
      ? `${contact.zones.length} zones`
      : contact.zones.map((each) => each.split('/').at(-1)!.replace(/_/g, ' ')).join(', ');
const due = (contact: Contact) =>
  contact.dueAt === null ? '' : Date.parse(contact.dueAt) <= live.now ? 'now' : moment(contact.dueAt);

function drop(event: DragEvent): void {
  dropped.value = event.dataTransfer?.files[0] ?? null;
  if (dropped.value !== null) importing.value = true;
}
function close(): void {
  importing.value = false;
  dropped.value = null;
}
function imported(): void {
  close();
  void load();
}
</script>

<template>
  <div class="split" @dragover.prevent @drop.prevent="session.mayEdit && drop($event)">
    <div class="list">
      <Narrowing>
        Show contacts that are
        <v-select
          v-model="state"
          aria-label="State"
          :items="[
            { value: null, title: 'in any state' },
            ...Object.entries(contactWords).map(([value, title]) => ({ value, title })),
          ]"
        />
        and whose name or number holds
        <input v-model="find" type="text" placeholder="anything" aria-label="Name or number" />
        <SaveList
          v-if="campaign.contacts > 0 && !importing"
          list="contacts"
          :asked="{ campaignId: campaign.id, state, text: find }"
        />
        <v-btn v-if="session.mayEdit && !importing" class="small-button" @click="importing = true"
          >Bring a list</v-btn
        >
      </Narrowing>
      <LedgerTable caption="Contacts" :columns="columns" :rows="contacts ?? []" @end="loadMore">
        <template #number="{ row }">{{ formatNumber(row.e164) }}</template>
        <template #state="{ row }">{{ contactWords[row.state] }}</template>
        <template #last="{ row }">
          <router-link v-if="row.lastCallId && row.lastAt" class="plain" :to="`/calls/${row.lastCallId}`"
            >{{
              row.outcome ??
              (row.lastResult ? resultOf(row.lastResult as CallResult, 'outbound') : 'Dialled')
            }}, {{ moment(row.lastAt) }}</router-link
          >
        </template>
        <template #due="{ row }">{{ due(row) }}</template>
        <template #zone="{ row }"
          ><span :title="row.zones.join(', ')">{{ zone(row) }}</span></template
        >
        <template v-for="key in campaign.fields.slice(0, 1)" :key="key" #[`field_${key}`]="{ row }">{{
          row.fields[key]
        }}</template>
        <template #empty>
          <EmptyLine
            v-if="contacts !== null"
            :text="
              campaign.contacts === 0
                ? 'Nobody to call yet. Bring a list as CSV or XLSX: drop the file here, or paste its rows.'
                : 'No contact fits this sentence.'
            "
          >
            <v-btn v-if="session.mayEdit && campaign.contacts === 0" @click="importing = true"
              >Bring a list</v-btn
            >
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <ImportSheet v-if="importing" :campaign="campaign" :file="dropped" @close="close" @done="imported" />
  </div>
</template>

<style scoped>
.narrowing :deep(.v-select) {
  flex: 0 0 130px;
}
.small-button {
  margin-left: auto;
}
</style>

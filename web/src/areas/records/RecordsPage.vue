<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type Connection, type RecordRow } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { useListLook } from '../../kit/list-view.ts';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import SaveList from '../../kit/SaveList.vue';
import { usePages } from '../../shell/pages.ts';
import Shape from '../../kit/Shape.vue';
import { useClock } from '../../kit/time.ts';
import { useAddress } from '../../shell/address.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import ConnectionSheet from './ConnectionSheet.vue';
import RecordSheet from './RecordSheet.vue';

const props = defineProps<{ id?: string }>();
const session = useSession();
const live = useLive();
const notices = useNotices();
const router = useRouter();
const route = useRoute();
const { moment } = useClock();
const connections = ref<Connection[] | null>(null);
const find = useAddress().part('holds');
const connecting = ref(false);
const againMs = 10_000;

const connection = computed(
  () => connections.value?.find((each) => !each.retired) ?? connections.value?.[0] ?? null,
);

async function loadConnections(): Promise<void> {
  try {
    connections.value = await ask(api.GET('/api/connections'));
  } catch (error) {
    notices.fail(error);
  }
}
const asked = computed(() => ({ search: find.value }));
const {
  rows: records,
  total,
  failed,
  more,
  load: loadRecords,
} = usePages<RecordRow>('record', '/api/records', () => asked.value);
watch(() => Math.floor(live.now / againMs), loadConnections, { immediate: true });
watch(
  [() => connection.value?.okAt, () => connection.value?.records],
  (_now, before) => before[1] !== undefined && void loadRecords(),
);
const fields = ref<string[]>([]);
watch(connecting, async () => {
  fields.value = await ask(api.GET('/api/record-fields')).catch(() => []);
});

const sentence = computed(() => {
  if (connections.value === null) return 'Asking.';
  const now = connection.value;
  if (now === null) return 'No customer system is connected';
  const waiting = now.waiting === 0 ? '' : `, ${now.waiting} call results wait to be written back`;
  return `${now.records.toLocaleString(locale.value)} records of ${now.name}${waiting}`;
});

const columns = computed(() => [
  { key: 'name', title: 'Name' },
  { key: 'number', title: 'Number', width: '150px', mono: true },
  { key: 'owner', title: 'Owner', width: '140px' },
  ...(props.id === undefined && !connecting.value ? telling.value : []).map((key) => ({
    key,
    title: (key.charAt(0).toUpperCase() + key.slice(1)).replace(/_/g, ' '),
  })),
]);
const look = useListLook('records', () => columns.value);
/** Of the customer system's own fields, those that sort records into kinds: set on most, with few values. */
const telling = computed(() => {
  const values = new Map<string, string[]>();
  for (const record of records.value ?? [])
    for (const [key, value] of Object.entries(record.fields))
      values.set(key, [...(values.get(key) ?? []), value]);
  return [...values]
    .map(([key, all]) => ({ key, kinds: new Set(all).size / all.length + 1 / all.length }))
    .sort((one, other) => one.kinds - other.kinds || (one.key < other.key ? -1 : 1))
    .slice(0, 3)
    .map(({ key }) => key);
});

async function readNow(): Promise<void> {
  try {
    const answer = await ask(api.POST('/api/connections/read'));
    if (answer.ok) notices.say(answer.detail);
    else notices.warn(answer.detail);
  } catch (error) {
    notices.fail(error);
  }
  await Promise.all([loadConnections(), loadRecords()]);
}

/** What the list is narrowed to stays in the address. */
function choose(id: string | null): void {
  void router.replace({ path: id === null ? '/records' : `/records/${id}`, query: route.query });
}
function close(): void {
  connecting.value = false;
  choose(null);
}
function saved(): void {
  connecting.value = false;
  void Promise.all([loadConnections(), loadRecords()]);
}
</script>

<template>
  <PageHead title="Records" :sentence="sentence">
    <ViewMenu :look="look" />
    <SaveList v-if="connection" list="records" :asked="asked" />
    <v-btn v-if="connection && session.mayOperate" @click="readNow">Read changes now</v-btn>
    <v-btn
      v-if="session.mayEdit"
      :variant="connection ? 'outlined' : 'flat'"
      :color="connection ? undefined : 'primary'"
      @click="connecting = true"
      >{{ connection ? 'Connection' : 'Connect a customer system' }}</v-btn
    >
  </PageHead>
  <div class="split">
    <div class="list">
      <p v-if="connection?.fault" class="away" role="alert">
        <Shape name="fault" /> {{ connection.name }}: {{ connection.fault }}
        <span class="second"
          >Since {{ connection.faultAt ? moment(connection.faultAt) : 'now' }}. Callers are still matched with
          what was read before; results wait and are sent when it answers.</span
        >
      </p>
      <Narrowing v-if="connection">
        Show records whose name or number begins with
        <input v-model="find" type="text" placeholder="anything" aria-label="Name or number" />
        <span class="second small">{{ connection.okAt ? `Last read ${moment(connection.okAt)}` : '' }}</span>
      </Narrowing>
      <LedgerTable
        caption="Records"
        :columns="look.shown.value"
        :rows="records ?? []"
        :total="total"
        :chosen="props.id"
        @choose="choose($event.id)"
        @end="more"
      >
        <template #number="{ row }">{{ row.numbers[0] ? formatNumber(row.numbers[0]) : '' }}</template>
        <template #owner="{ row }">{{ row.owner }}</template>
        <template v-for="key in telling" :key="key" #[key]="{ row }">{{ row.fields[key] }}</template>
        <template #empty>
          <EmptyLine
            v-if="connections !== null && connection === null"
            text="No customer system is connected. Connected, callers are matched by their number, agents see the record when it rings, and results go back to it."
          >
            <v-btn v-if="session.mayEdit" @click="connecting = true">Connect a customer system</v-btn>
          </EmptyLine>
          <EmptyLine v-else-if="failed" text="The list could not be read.">
            <v-btn @click="loadRecords()">Read it again</v-btn>
          </EmptyLine>
          <EmptyLine v-else-if="records !== null" text="No record fits." />
        </template>
      </LedgerTable>
    </div>
    <ConnectionSheet
      v-if="connecting"
      :connection="connection"
      :fields="fields"
      @close="close"
      @saved="saved"
    />
    <RecordSheet v-else-if="props.id" :id="props.id" :key="props.id" @close="close" />
  </div>
</template>

<style scoped>
.away {
  padding: 7px 20px;
  border-bottom: 1px solid var(--rule2);
  color: var(--oxide);
}
.narrowing .small {
  margin-left: auto;
}
</style>

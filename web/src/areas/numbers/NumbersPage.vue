<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { money } from '../../kit/money.ts';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type Balance, type HeldNumber } from '../../api/client.ts';
import { readNumber } from '../../api/lists.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { useListLook } from '../../kit/list-view.ts';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import SaveList from '../../kit/SaveList.vue';
import Shape from '../../kit/Shape.vue';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useOne } from '../../shell/one.ts';
import { useCount, usePages } from '../../shell/pages.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import NumberBulkBar from './NumberBulkBar.vue';
import { reportWords } from './words.ts';

/** What stands beside the list is fetched when it is first asked for. */
const BalanceSheet = defineAsyncComponent(() => import('./BalanceSheet.vue'));
const BringNumbers = defineAsyncComponent(() => import('./BringNumbers.vue'));
const NumberSheet = defineAsyncComponent(() => import('./NumberSheet.vue'));
const NumberShop = defineAsyncComponent(() => import('./NumberShop.vue'));

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const { making, choose, add, close } = useItemList('/numbers');
const address = useAddress();
const sort = address.part('sort');
const find = address.part('find');
const only = address.choice('only');
const beside = ref<'shop' | 'balance' | 'bring' | null>(null);
const marked = ref<ReadonlySet<string>>(new Set());
const balance = ref<Balance | null>(null);
const notices = useNotices();
const asked = computed(() => ({
  search: find.value.trim(),
  only: only.value,
  sort: sort.value.replace(/^-/, '') || 'open',
  down: sort.value.startsWith('-') ? 'true' : null,
}));
const { rows, total, failed, more, load, idsOfAll } = usePages<HeldNumber>(
  'number',
  '/api/numbers',
  () => asked.value,
  ['queue', 'person', 'plan', 'source', 'team'],
);
const unrouted = useCount('number', '/api/numbers', () => ({ only: 'unrouted' }));
const shown = useOne('number', readNumber, () => props.id);
watch([rows, () => live.endedCalls], async () => {
  balance.value = await ask(api.GET('/api/balance')).catch(() => balance.value);
});

const chosen = computed(() => shown.item.value ?? undefined);
// Nothing is done to rows that one no longer sees.
watch(
  () => JSON.stringify({ ...asked.value, sort: '', down: '' }),
  () => (marked.value = new Set()),
);
const markedIds = computed(() => [...marked.value]);
const markAllThatFit = () =>
  idsOfAll()
    .then((ids) => (marked.value = new Set(ids)))
    .catch(notices.fail);
const narrowed = computed(() => find.value !== '' || only.value !== null);
const sentence = computed(() => {
  if (total.value === null || unrouted.value === null) return 'Reading the list.';
  const numbers = total.value === 1 ? '1 number' : `${total.value.toLocaleString(locale.value)} numbers`;
  const open = unrouted.value;
  const all = narrowed.value ? `${numbers} fit` : numbers;
  return `${all}, ${open === 0 ? 'all lead somewhere' : `${open.toLocaleString(locale.value)} lead${open === 1 ? 's' : ''} nowhere`}`;
});
const narrowings = [
  { value: null, title: 'all numbers' },
  { value: 'unrouted', title: 'those that lead nowhere' },
  { value: 'reported', title: 'those reported' },
  { value: 'rented', title: 'those rented at the shop' },
];

const kindWords = {
  queue: 'queue',
  person: 'person',
  voicemail: 'voicemail',
  outside: 'outside',
  ringGroup: 'ring group',
  room: 'room',
  fax: 'fax',
  number: 'number',
  plan: 'plan',
  end: '',
};
/** Whose people may dial out with it. */
const shownBy = (row: HeldNumber) => row.dialTeams.map(setUp.nameOf).join(', ') || 'everybody';
const allColumns = [
  { key: 'number', title: 'Number', width: '150px', mono: true, sort: true as const },
  { key: 'label', title: 'Label', sort: true as const },
  { key: 'leadsTo', title: 'Leads to', sort: true as const },
  { key: 'source', title: 'Source', sort: true as const },
  { key: 'shownBy', title: 'Shown by', width: '110px' },
  { key: 'texts', title: 'Texts', width: '110px', sort: true as const },
  {
    key: 'monthly',
    title: '$ a month',
    width: '88px',
    mono: true,
    right: true,
    sort: true as const,
  },
  {
    key: 'today',
    title: 'Today',
    width: '64px',
    mono: true,
    right: true,
    sort: true as const,
  },
];

/** Beside a sheet there is room for what a number is and does; what it costs and why it rings stand on the sheet. */
const isNarrow = computed(() => making.value || chosen.value !== undefined || beside.value !== null);
const columns = computed(() =>
  allColumns.map((column) => ({
    ...column,
    hidden: isNarrow.value && ['source', 'shownBy', 'monthly'].includes(column.key),
  })),
);
const look = useListLook('numbers', () => columns.value);
/** To the cent; the sheet has it exactly. */
const cents = computed(() => money(balance.value?.balance.replace(/(\.\d\d)\d+$/, '$1')) || '…');

function open(what: 'shop' | 'balance' | 'bring'): void {
  close();
  beside.value = what;
}
function choosing(row: { id: string }): void {
  beside.value = null;
  choose(row);
}
function adding(): void {
  beside.value = null;
  add();
}
/** One rented number is opened at once; of several the first comes first in the list anyway. */
function rented(ids: string[]): void {
  beside.value = null;
  if (ids.length === 1) choose({ id: ids[0]! });
  else marked.value = new Set(ids);
}
useKeys({ b: () => open('balance'), s: () => session.mayEdit && open('shop') });
</script>

<template>
  <PageHead title="Numbers" :sentence="sentence">
    <ViewMenu :look="look" />
    <SaveList v-if="beside !== 'shop'" list="numbers" :asked="asked" :marked="markedIds" />
    <v-btn @click="open('balance')"
      >Balance <span class="mono sum" :class="{ 'fault-text': balance?.isLow }">{{ cents }}</span></v-btn
    >
    <v-btn v-if="session.mayEdit" @click="open('bring')">Bring a list</v-btn>
    <v-btn v-if="session.mayEdit" @click="adding">Enter one<KeyCap>N</KeyCap></v-btn>
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="open('shop')"
      >Number shop<KeyCap>S</KeyCap></v-btn
    >
  </PageHead>
  <NumberShop v-if="beside === 'shop'" class="split" @close="beside = null" @rented="rented" />
  <div v-else class="split">
    <div class="list">
      <Narrowing>
        Show
        <v-select v-model="only" aria-label="Which numbers" :items="narrowings" />
        <v-text-field
          v-model="find"
          aria-label="Find a number"
          placeholder="Find by digits or label"
          class="find"
        />
        <span v-if="sort === ''" class="second">unrouted ones first</span>
      </Narrowing>
      <NumberBulkBar
        v-if="markedIds.length > 0 && session.mayEdit"
        :ids="markedIds"
        :fit="total ?? 0"
        @all="markAllThatFit"
        @clear="marked = new Set()"
      />
      <LedgerTable
        v-model:marked="marked"
        v-model:sort="sort"
        caption="Numbers"
        :columns="look.shown.value"
        :rows="rows ?? []"
        :total="total"
        :chosen="props.id"
        :markable="session.mayEdit"
        @choose="choosing"
        @end="more"
      >
        <template #number="{ row }">{{ formatNumber(row.e164) }}</template>
        <template #label="{ row }">
          {{ row.label }}
          <span v-if="row.reports.length > 0" class="fault-text" :title="reportWords(row)"
            ><Shape name="fault" /> reported</span
          >
        </template>
        <template #leadsTo="{ row }">
          <span v-if="row.destination === null" class="nowhere"><Shape name="missing" /> Nowhere</span>
          <template v-else
            >{{ row.destinationName }}
            <span class="second">{{ kindWords[row.destination.kind] }}</span></template
          >
        </template>
        <template #source="{ row }">{{ row.sourceName }}</template>
        <template #shownBy="{ row }"
          ><span :class="{ second: row.dialTeams.length === 0 }" :title="shownBy(row)">{{
            shownBy(row)
          }}</span></template
        >
        <template #texts="{ row }">{{ row.textsName }}</template>
        <template #monthly="{ row }"
          ><span :class="{ second: row.monthly === null }">{{ row.monthly ?? 'own' }}</span></template
        >
        <template #today="{ row }">{{ row.callsToday }}</template>
        <template #empty>
          <EmptyLine v-if="failed" text="The list could not be read.">
            <v-btn @click="load()">Read it again</v-btn>
          </EmptyLine>
          <EmptyLine v-else-if="narrowed && rows !== null" text="No number fits this sentence.">
            <v-btn @click="address.put({ find: '', only: '' })">Show all</v-btn>
          </EmptyLine>
          <EmptyLine
            v-else-if="rows !== null"
            text="No number yet. Rent one in the shop, or enter one held elsewhere; then say where it leads."
          >
            <v-btn v-if="session.mayEdit" @click="open('shop')">Number shop</v-btn>
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <BalanceSheet v-if="beside === 'balance'" @close="beside = null" @changed="balance = $event" />
    <BringNumbers v-else-if="beside === 'bring'" @close="beside = null" />
    <NumberSheet v-else-if="making" key="new" :number="null" :users="[]" @close="close" @made="choose" />
    <NumberSheet
      v-else-if="chosen"
      :key="chosen.id"
      :number="chosen"
      :users="shown.usedBy.value"
      @close="close"
      @made="choose"
    />
  </div>
</template>

<style scoped>
.narrowing :deep(.v-select) {
  flex: 0 0 208px;
}
.find {
  flex: 0 0 200px;
}
.sum {
  margin-left: 8px;
}
.nowhere {
  font-weight: 600;
}
</style>

<script setup lang="ts">
import { money } from '../../kit/money.ts';
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type Balance, type HeldNumber } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import BalanceSheet from './BalanceSheet.vue';
import BringNumbers from './BringNumbers.vue';
import NumberBulkBar from './NumberBulkBar.vue';
import NumberSheet from './NumberSheet.vue';
import NumberShop from './NumberShop.vue';
import { reportWords } from './words.ts';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const { making, choose, add, close } = useItemList('/numbers');
const address = useAddress();
const sort = address.part('sort');
const only = address.choice('only');
const beside = ref<'shop' | 'balance' | 'bring' | null>(null);
const marked = ref<ReadonlySet<string>>(new Set());
const balance = ref<Balance | null>(null);
watch(
  [() => setUp.numbers, () => live.endedCalls],
  async () => {
    balance.value = await ask(api.GET('/api/balance')).catch(() => balance.value);
  },
  { immediate: true },
);

/** Those that lead nowhere hide in a long list: they come first. */
const rows = computed(() => {
  const all = (setUp.numbers ?? []).filter((number) => {
    if (only.value === 'unrouted') return number.destination === null;
    if (only.value === 'reported') return number.reports.length > 0;
    return only.value !== 'rented' || number.rentedAt !== null;
  });
  return [
    ...all.filter((number) => number.destination === null),
    ...all.filter((number) => number.destination !== null),
  ];
});
const chosen = computed(() => (setUp.numbers ?? []).find((number) => number.id === props.id));
const markedIds = computed(() => rows.value.filter((row) => marked.value.has(row.id)).map((row) => row.id));
const sentence = computed(() => {
  if (setUp.numbers === null) return 'Reading the list.';
  const unrouted = setUp.numbers.filter((number) => number.destination === null).length;
  const numbers = setUp.numbers.length === 1 ? '1 number' : `${setUp.numbers.length} numbers`;
  return `${numbers}, ${unrouted === 0 ? 'all lead somewhere' : `${unrouted} lead${unrouted === 1 ? 's' : ''} nowhere`}`;
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
  room: 'room',
  fax: 'fax',
  number: 'number',
  plan: 'plan',
  end: '',
};
/** Whose people may dial out with it. */
const shownBy = (row: HeldNumber) => row.dialTeams.map(setUp.nameOf).join(', ') || 'everybody';
const allColumns = [
  { key: 'e164', title: 'Number', width: '150px', mono: true, sort: (row: HeldNumber) => row.e164 },
  { key: 'label', title: 'Label', sort: (row: HeldNumber) => row.label },
  { key: 'leadsTo', title: 'Leads to', sort: (row: HeldNumber) => row.destinationName ?? '' },
  { key: 'source', title: 'Source', sort: (row: HeldNumber) => row.sourceName ?? '' },
  { key: 'shownBy', title: 'Shown by', width: '110px', sort: (row: HeldNumber) => shownBy(row) },
  { key: 'texts', title: 'Texts', width: '110px', sort: (row: HeldNumber) => row.textsName ?? '' },
  {
    key: 'monthly',
    title: '$ a month',
    width: '88px',
    mono: true,
    right: true,
    sort: (row: HeldNumber) => Number(row.monthly ?? 0),
  },
  {
    key: 'today',
    title: 'Today',
    width: '64px',
    mono: true,
    right: true,
    sort: (row: HeldNumber) => row.callsToday,
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
      <div class="sentence">
        Show
        <v-select v-model="only" aria-label="Which numbers" :items="narrowings" />
        <span class="second">unrouted ones first</span>
      </div>
      <NumberBulkBar
        v-if="markedIds.length > 0 && session.mayEdit"
        :ids="markedIds"
        @clear="marked = new Set()"
      />
      <LedgerTable
        v-model:marked="marked"
        v-model:sort="sort"
        caption="Numbers"
        :columns="columns"
        :rows="rows"
        :chosen="props.id"
        :markable="session.mayEdit"
        @choose="choosing"
      >
        <template #e164="{ row }">{{ formatNumber(row.e164) }}</template>
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
          <EmptyLine
            v-if="setUp.numbers !== null && setUp.numbers.length > 0"
            text="No number fits this sentence. Change its field."
          />
          <EmptyLine
            v-else-if="setUp.numbers !== null"
            text="No number yet. Rent one in the shop, or enter one held elsewhere; then say where it leads."
          >
            <v-btn v-if="session.mayEdit" @click="open('shop')">Number shop</v-btn>
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <BalanceSheet v-if="beside === 'balance'" @close="beside = null" @changed="balance = $event" />
    <BringNumbers v-else-if="beside === 'bring'" @close="beside = null" />
    <NumberSheet v-else-if="making" key="new" :number="null" @close="close" @made="choose" />
    <NumberSheet v-else-if="chosen" :key="chosen.id" :number="chosen" @close="close" @made="choose" />
  </div>
</template>

<style scoped>
.sentence {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 5px 20px;
  border-bottom: 1px solid var(--rule);
}
.sentence :deep(.v-select) {
  flex: 0 0 208px;
}
.sum {
  margin-left: 8px;
}
.nowhere {
  font-weight: 600;
}
</style>

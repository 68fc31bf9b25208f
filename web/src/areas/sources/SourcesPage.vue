<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, ask, type Source, type SourceReport } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { money } from '../../kit/money.ts';
import { useListLook } from '../../kit/list-view.ts';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import SaveList from '../../kit/SaveList.vue';
import StretchField from '../../kit/StretchField.vue';
import ZoneNote from '../../kit/ZoneNote.vue';
import { dayOf, useClock } from '../../kit/time.ts';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import SourceSheet from './SourceSheet.vue';
import { kindWords } from './words.ts';

type ReportRow = SourceReport['rows'][number];

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const session = useSession();
const live = useLive();
const notices = useNotices();
const router = useRouter();
const route = useRoute();
const { date } = useClock();
const { making, choose, add, close } = useItemList('/sources');
const report = ref<SourceReport | null>(null);

const today = computed(() => dayOf(live.now, session.timeZone));
const daysBefore = (days: number) => dayOf(live.now - days * 86_400_000, session.timeZone);
const sort = useAddress().part('sort');
const from = computed(() => (route.query.from as string | undefined) ?? daysBefore(29));
const to = computed(() => (route.query.to as string | undefined) ?? today.value);
const stretch = computed({
  get: () => ({ from: from.value, to: to.value }),
  set: (days) =>
    void router.replace({
      query: { ...route.query, from: days.from || undefined, to: days.to || undefined },
    }),
});

async function load(): Promise<void> {
  try {
    report.value = await ask(
      api.GET('/api/source-report', { params: { query: { from: from.value, to: to.value } } }),
    );
  } catch (error) {
    notices.fail(error);
  }
}
watch([from, to, () => live.configurationChanges, () => live.endedCalls], load, { immediate: true });

interface Row {
  id: string;
  source: Source | null;
  counts: ReportRow;
}
const rows = computed<Row[]>(() =>
  (report.value?.rows ?? []).map((counts) => ({
    id: counts.sourceId ?? 'none',
    source: setUp.sourceById.get(counts.sourceId ?? '') ?? null,
    counts,
  })),
);

const allColumns = [
  { key: 'name', title: 'Source', sort: (row: Row) => row.source?.name ?? '' },
  { key: 'kind', title: 'Kind', width: '84px' },
  { key: 'numbers', title: 'Rings on', width: '90px' },
  {
    key: 'calls',
    title: 'Calls',
    width: '64px',
    right: true,
    mono: true,
    sort: (row: Row) => row.counts.calls,
  },
  {
    key: 'answered',
    title: 'Answered',
    width: '76px',
    right: true,
    mono: true,
    sort: (row: Row) => row.counts.answered,
  },
  { key: 'lost', title: 'Lost', width: '56px', right: true, mono: true, sort: (row: Row) => row.counts.lost },
  {
    key: 'firstTime',
    title: 'First time',
    width: '80px',
    right: true,
    mono: true,
    sort: (row: Row) => row.counts.firstTime,
  },
  { key: 'good', title: 'Good', width: '60px', right: true, mono: true, sort: (row: Row) => row.counts.good },
  {
    key: 'cost',
    title: 'Cost',
    width: '92px',
    right: true,
    mono: true,
    sort: (row: Row) => Number(row.counts.cost ?? -1),
  },
  {
    key: 'costPerGood',
    title: 'Per good call',
    width: '112px',
    right: true,
    mono: true,
    sort: (row: Row) => Number(row.counts.costPerGood ?? -1),
  },
];
/** Beside a sheet there is room for the name and what counts. */
const columns = computed(() => {
  const isNarrow = making.value || (props.id ?? '') !== '';
  return allColumns.map((column) => ({
    ...column,
    hidden: isNarrow && ['kind', 'numbers', 'lost', 'firstTime', 'cost'].includes(column.key),
  }));
});
const look = useListLook('sources', () => columns.value);

/** Every figure leads to its calls: the list filtered by the same definition. */
function calls(row: Row, more: Record<string, string>) {
  const source = row.source === null ? {} : { sourceId: row.source.id };
  return {
    path: '/calls',
    query: { direction: 'inbound', from: from.value, to: to.value, ...source, ...more },
  };
}

const figures = [
  { key: 'calls', query: {} },
  { key: 'answered', query: { result: 'answered' } },
  { key: 'lost', query: { lost: 'true' } },
  { key: 'firstTime', query: { firstTime: 'true' } },
  { key: 'good', query: { good: 'true' } },
] as const;

const sentence = computed(() => {
  if (report.value === null) return 'Counting.';
  const counted = report.value.rows.reduce((sum, row) => sum + (row.sourceId === null ? 0 : row.calls), 0);
  return `${counted} calls made by adverts, ${date(`${from.value}T12:00`)} to ${date(`${to.value}T12:00`)}`;
});

function chooseRow({ source }: Row): void {
  if (source !== null) choose(source);
}
function made(source: Source): void {
  void load();
  choose(source);
}
</script>

<template>
  <PageHead title="Sources" :sentence="sentence">
    <ViewMenu :look="look" />
    <SaveList list="sources" />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New source<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="split">
    <div class="list">
      <Narrowing>
        What made the phone ring on
        <StretchField v-model="stretch" label="Days" :today="today" toward="past" /><ZoneNote />
        <span class="second"
          >A good call lasts {{ report?.goodCallSeconds ?? 60 }} s or has a good outcome.</span
        >
      </Narrowing>
      <LedgerTable
        v-model:sort="sort"
        caption="Sources"
        :columns="look.shown.value"
        :rows="rows"
        :chosen="props.id"
        @choose="chooseRow"
      >
        <template #name="{ row }">
          <template v-if="row.source">{{ row.source.name }}</template>
          <span v-else class="second">no source</span>
        </template>
        <template #kind="{ row }">{{ row.source ? kindWords[row.source.kind] : '' }}</template>
        <template #numbers="{ row }">
          <span v-if="row.source && row.source.numbers.length === 0" class="second">no number</span>
          <span v-else-if="row.source">{{
            row.source.numbers.length === 1 ? '1 number' : `${row.source.numbers.length} numbers`
          }}</span>
        </template>
        <template v-for="figure in figures" :key="figure.key" #[figure.key]="{ row }">
          <router-link
            v-if="row.source && row.counts[figure.key] > 0"
            class="plain"
            :to="calls(row, figure.query)"
            @click.stop
            >{{ row.counts[figure.key].toLocaleString(locale) }}</router-link
          >
          <template v-else>{{ row.counts[figure.key].toLocaleString(locale) }}</template>
        </template>
        <template #cost="{ row }">{{ money(row.counts.cost) }}</template>
        <template #costPerGood="{ row }">
          <b>{{ money(row.counts.costPerGood) }}</b>
        </template>
        <template #empty>
          <EmptyLine
            v-if="report !== null"
            text="No call source yet. Give each advert, poster or page a number of its own: the number tells which one made the phone ring."
          >
            <v-btn v-if="session.mayEdit" @click="add">New source</v-btn>
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <SourceSheet v-if="making" key="new" :item="null" @close="close" @made="made" />
    <SourceSheet
      v-else-if="props.id && setUp.sourceById.get(props.id)"
      :key="props.id"
      :item="setUp.sourceById.get(props.id)!"
      @close="close"
      @made="made"
    />
  </div>
</template>

<script setup lang="ts">
import { calmly } from '../../kit/calmly.ts';
import { figure } from '../../kit/locale.ts';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type CallList, type CallRow } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { useListLook } from '../../kit/list-view.ts';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import SaveList from '../../kit/SaveList.vue';
import Shape from '../../kit/Shape.vue';
import { span } from '@night-bell/core/story/span';
import type { Stretch } from '../../kit/days.ts';
import StretchField from '../../kit/StretchField.vue';
import ZoneNote from '../../kit/ZoneNote.vue';
import ThingField from '../../kit/ThingField.vue';
import { dayOf, instantsOf, useClock } from '../../kit/time.ts';
import { resultOf, resultWords } from '@night-bell/core/story/words';
import { directionWords } from '../../kit/words.ts';
import { useDirectory } from '../../shell/directory.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import {
  type Line,
  lineInProgress,
  lineOver,
  type Names,
  otherSide,
  shape,
  stageWords,
} from './call-lines.ts';

const route = useRoute();
const router = useRouter();
const directory = useDirectory();
const session = useSession();
const live = useLive();
const notices = useNotices();
const { moment } = useClock();

const ended = ref<CallRow[]>([]);
const totals = ref<CallList['totals'] | null>(null);
const more = ref(false);
const loading = ref(true);
const query = computed(() => route.query as Record<string, string | undefined>);

function filter(name: string) {
  return computed({
    get: () => query.value[name] ?? null,
    set: (value: string | null) =>
      void router.replace({
        query: { ...route.query, [name]: value === null || value === '' ? undefined : value },
      }),
  });
}
const personId = filter('personId');
const queueId = filter('queueId');
const ringGroupId = filter('ringGroupId');
const numberId = filter('numberId');
const result = filter('result');
const today = computed(() => dayOf(live.now, session.timeZone));
const stretch = computed({
  get: (): Stretch => ({ from: query.value.from ?? '', to: query.value.to ?? '' }),
  set: ({ from, to }) =>
    void router.replace({ query: { ...route.query, from: from || undefined, to: to || undefined } }),
});
const caller = filter('caller');
const direction = filter('direction');
const campaignId = filter('campaignId');
const sourceId = filter('sourceId');
/** Filters that another page brought along: shown as words that can be dropped. */
const brought = computed(() =>
  [
    { name: 'good', word: 'good calls' },
    { name: 'firstTime', word: 'first-time callers' },
    { name: 'lost', word: 'lost calls' },
    { name: 'recordId', word: 'one record' },
    { name: 'outcome', word: `outcome ${query.value.outcome ?? ''}` },
  ].filter((each) => query.value[each.name] !== undefined),
);
const drop = (name: string) => void router.replace({ query: { ...route.query, [name]: undefined } });

const asked = computed(() => {
  const { from: first, to: last, ...rest } = query.value;
  return Object.fromEntries(
    Object.entries({
      ...rest,
      ...instantsOf({ from: first ?? '', to: last ?? '' }, session.timeZone),
    }).filter(([, value]) => value !== undefined && value !== null),
  );
});

const readCalls = (parts: Record<string, unknown>): Promise<CallList> =>
  ask(api.GET('/api/calls', { params: { query: { ...asked.value, totals: false, ...parts } as never } }));

/** Rows are not held up by counting every call that fits. */
async function count(): Promise<void> {
  const of = asked.value;
  const answer = await readCalls({ limit: 1, totals: true }).catch(() => null);
  if (answer !== null && of === asked.value) totals.value = answer.totals;
}

async function load(): Promise<void> {
  void count();
  const of = asked.value;
  try {
    const answer = await readCalls({});
    // Narrowed again meanwhile: the other answer comes.
    if (of !== asked.value) return;
    ended.value = answer.calls;
    more.value = answer.more;
  } catch (error) {
    notices.fail(error);
  } finally {
    loading.value = false;
  }
}

let fetching = false;
async function loadMore(): Promise<void> {
  const last = ended.value.at(-1);
  if (!more.value || fetching || last === undefined) return;
  fetching = true;
  try {
    const answer = await readCalls({ behind: last.id });
    ended.value = [...ended.value, ...answer.calls];
    more.value = answer.more;
  } catch (error) {
    notices.fail(error);
  } finally {
    fetching = false;
  }
}

watch(
  asked,
  () => {
    totals.value = null;
    void load();
  },
  { immediate: true },
);
// New calls are put on top; how far one has scrolled stays.
const newestMs = 500;
const countMs = 3_000;
const countAgain = calmly(() => void count(), countMs);
watch(
  () => live.endedCalls,
  calmly(async () => {
    countAgain();
    const answer = await readCalls({ limit: 50 }).catch(() => null);
    if (answer === null) return;
    const known = new Set(ended.value.map((call) => call.id));
    ended.value = [...answer.calls.filter((call) => !known.has(call.id)), ...ended.value].sort(
      (one, other) => (one.arrivedAt < other.arrivedAt ? 1 : -1),
    );
  }, newestMs),
);

/** How items and people are called, as far as whoever looks may know. */
const names: Names = {
  ofNumber: (digits) => directory.ofDigits(digits)?.name ?? formatNumber(digits),
  ofItem: (id) => directory.nameOf(id),
  ofPerson: (id) => (session.mayRead ? directory.nameOf(id) : (session.view?.person?.name ?? null)),
};

const inProgress = computed<Line[]>(() => {
  const someDays = stretch.value.from !== '' || stretch.value.to !== '';
  if (result.value !== null || someDays || brought.value.length > 0) return [];
  return [...live.calls.values()]
    .filter((call) =>
      direction.value === null ? call.direction !== 'line' : call.direction === direction.value,
    )
    .filter((call) => campaignId.value === null || call.campaignId === campaignId.value)
    .filter((call) => sourceId.value === null || call.sourceId === sourceId.value)
    .filter((call) => personId.value === null || call.personId === personId.value)
    .filter((call) => queueId.value === null || call.queueId === queueId.value)
    .filter((call) => ringGroupId.value === null || call.ringGroupId === ringGroupId.value)
    .filter((call) => numberId.value === null || call.numberId === numberId.value)
    .filter(
      (call) =>
        caller.value === null ||
        otherSide(call.direction, call.from, call.to).includes(caller.value.replace(/\D/g, '')),
    )
    .map((call) => lineInProgress(call, live.now, names))
    .sort((one, other) => other.arrivedAt - one.arrivedAt);
});

const rows = computed<Line[]>(() => [
  ...inProgress.value,
  ...ended.value.filter((call) => !live.calls.has(call.id)).map((call) => lineOver(call, names)),
]);

const sentence = computed(() => {
  if (loading.value) return 'Reading the list.';
  const now = inProgress.value.length === 0 ? '' : `${inProgress.value.length} in progress. `;
  if (totals.value === null) return `${now}Counting those that are over.`;
  const count = totals.value.reduce((sum, each) => sum + each.count, 0);
  const answered = totals.value.find((each) => each.result === 'answered')?.count ?? 0;
  return `${now}${figure(count)} calls are over, ${figure(answered)} of them answered.`;
});

const columns = computed(() => [
  { key: 'time', title: 'Time', width: '134px', mono: true, time: true as const },
  { key: 'direction', title: '', width: '42px' },
  { key: 'other', title: 'Caller or contact', width: '134px' },
  { key: 'number', title: 'Number and source' },
  { key: 'about', title: 'Queue, group, campaign', width: '158px' },
  ...(session.mayRead ? [{ key: 'person', title: 'Who handled it', width: '13%' }] : []),
  { key: 'result', title: 'How it ended', width: '164px' },
  { key: 'waited', title: 'Waited', width: '70px', right: true, mono: true },
  { key: 'talked', title: 'Talked', width: '76px', right: true, mono: true },
]);
const look = useListLook('calls', () => columns.value);
const results = Object.entries(resultWords).map(([value, title]) => ({ value, title }));
</script>

<template>
  <PageHead :title="session.mayRead ? 'Calls' : 'Your calls'" :sentence="sentence">
    <router-link v-if="session.mayRead" to="/surveys">Surveys</router-link>
    <ViewMenu v-if="session.mayRead" :look="look" />
    <SaveList v-if="session.mayRead" list="calls" :asked="asked" />
  </PageHead>
  <Narrowing v-if="session.mayRead" tall>
    Calls
    <v-select
      v-model="direction"
      aria-label="Direction"
      :items="[
        { value: null, title: 'in and out' },
        { value: 'inbound', title: 'in' },
        { value: 'outbound', title: 'out' },
        { value: 'dialled', title: 'dialled by people' },
        { value: 'line', title: 'lines held' },
      ]"
    />
    handled by
    <ThingField v-model="personId" label="Agent" :kinds="['person']" none="anybody" />
    from
    <ThingField v-model="queueId" label="Queue" :kinds="['queue']" none="any queue" />
    on
    <ThingField v-model="numberId" label="Number" :kinds="['number']" none="any number" />
    or of
    <ThingField v-model="campaignId" label="Campaign" :kinds="['campaign']" none="any campaign" />
    by
    <ThingField v-model="sourceId" label="Source" :kinds="['source']" none="any source" />
    that ended
    <v-select
      v-model="result"
      aria-label="Result"
      :items="[{ value: null, title: 'in any way' }, ...results]"
    />
    rung by
    <ThingField v-model="ringGroupId" label="Ring group" :kinds="['ringGroup']" none="any ring group" />
    on
    <StretchField v-model="stretch" label="Days" :today="today" toward="past" /><ZoneNote />
    with
    <input
      :value="caller ?? ''"
      type="text"
      placeholder="anybody"
      aria-label="Digits of the caller or contact"
      class="mono caller"
      @change="caller = ($event.target as HTMLInputElement).value"
    />
    <button v-for="each in brought" :key="each.name" class="link" type="button" @click="drop(each.name)">
      only {{ each.word }} ×
    </button>
  </Narrowing>
  <LedgerTable
    caption="Calls"
    :columns="look.shown.value"
    :rows="rows"
    @choose="router.push(`/calls/${$event.id}`)"
    @end="loadMore"
  >
    <template #time="{ row }">{{ moment(row.arrivedAt) }}</template>
    <template #direction="{ row }"
      ><span class="second">{{ directionWords[row.direction] }}</span></template
    >
    <template #other="{ row }"
      ><router-link
        class="plain"
        :class="{ mono: row.otherName === null }"
        :to="`/calls/${row.id}`"
        @click.stop
        >{{ row.otherName ?? formatNumber(row.other) }}</router-link
      ></template
    >
    <template #number="{ row }"
      >{{ row.number }}<span v-if="row.sourceName" class="second">, {{ row.sourceName }}</span></template
    >
    <template #about="{ row }">{{ row.about }}</template>
    <template #person="{ row }">
      <b v-if="row.personName">{{ row.stage === 'ringing' ? '' : row.personName }}</b>
      <span v-if="row.stage === 'ringing'" class="second">rings {{ row.personName }}</span>
      <span v-if="!row.personName" class="second">nobody</span>
    </template>
    <template #result="{ row }">
      <span class="result"
        ><Shape :name="shape(row)" />{{
          row.result === null ? stageWords[row.stage] : resultOf(row.result, row.direction)
        }}<span v-if="row.outcome" class="second outcome">{{ row.outcome }}</span></span
      >
    </template>
    <template #waited="{ row }">{{ span(row.waitedMs) }}</template>
    <template #talked="{ row }">{{ row.talkedMs > 0 ? span(row.talkedMs) : '' }}</template>
    <template #empty>
      <EmptyLine
        v-if="!loading"
        :text="
          Object.keys(asked).length > 0
            ? 'No call fits this sentence. Change one of its fields.'
            : 'No call yet. Place a test call live from the bar below.'
        "
      />
    </template>
  </LedgerTable>
</template>

<style scoped>
.narrowing :deep(.v-select),
.narrowing :deep(.v-autocomplete) {
  max-width: 122px;
  flex: 0 1 122px;
}
.narrowing .caller {
  width: 56px;
}
.result {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  max-width: 100%;
}
.outcome {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>

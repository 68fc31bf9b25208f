<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { surveyBy as ways, type SurveyBy, type SurveyView } from './words.ts';
import { send } from '../../api/items.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { locale } from '../../kit/locale.ts';
import PageHead from '../../kit/PageHead.vue';
import StretchField from '../../kit/StretchField.vue';
import ZoneNote from '../../kit/ZoneNote.vue';
import { dayOf, instantOf } from '../../kit/time.ts';
import { useAddress } from '../../shell/address.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';

/** What callers answered after the talk: a row for each agent, queue or plan and question. */
const live = useLive();
const session = useSession();
const address = useAddress();
const by = address.choice('by');
const from = address.part('from');
const to = address.part('to');
const today = computed(() => dayOf(live.now, session.timeZone));
const stretch = computed({
  get: () => ({ from: from.value, to: to.value }),
  set: (value) => address.put({ from: value.from, to: value.to }),
});
const dayMs = 86_400_000;
const asked = computed(() => {
  const query = new URLSearchParams({ by: by.value ?? 'person' });
  const start = (day: string) => instantOf(`${day}T00:00`, session.timeZone);
  if (from.value !== '') query.set('from', new Date(start(from.value)).toISOString());
  if (to.value !== '') query.set('to', new Date(start(to.value) + dayMs).toISOString());
  return query.toString();
});
const query = useQuery({
  queryKey: computed(() => ['surveys', asked.value] as const),
  queryFn: ({ queryKey }) => send<SurveyView[]>('GET', `/api/surveys?${queryKey[1]}`),
  staleTime: 5_000,
  retry: false,
});
const rows = computed(() =>
  (query.data.value ?? []).map((row) => ({ ...row, id: `${row.itemId ?? ''} ${row.question}` })),
);
type Row = (typeof rows.value)[number];
const word = computed(() => ways.find(({ value }) => value === (by.value ?? 'person'))!.title);
const columns = computed(() => [
  ...(by.value === 'question'
    ? []
    : [{ key: 'name', title: word.value, width: '240px', sort: (row: Row) => row.name }]),
  { key: 'question', title: 'Question', sort: (row: Row) => row.question },
  { key: 'spread', title: '1 to 5', width: '190px' },
  {
    key: 'answers',
    title: 'Answers',
    width: '96px',
    right: true,
    mono: true,
    sort: (row: Row) => row.answers,
  },
  { key: 'mean', title: 'Mean', width: '80px', right: true, mono: true, sort: (row: Row) => row.mean },
]);
const figure = (value: number) => value.toLocaleString(locale.value);
const meanWords = (mean: number) =>
  (mean / 100).toLocaleString(locale.value, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const sentence = computed(() => {
  if (query.isError.value) return 'The answers could not be read.';
  if (query.data.value === undefined) return 'Reading the answers.';
  const answers = rows.value.reduce((sum, row) => sum + row.answers, 0);
  const when = from.value === '' && to.value === '' ? ' in the last 30 days' : '';
  return answers === 1 ? `1 answer${when}` : `${figure(answers)} answers${when}`;
});
/** Most of one kind fill the height. */
const height = (count: number, counts: readonly number[]) =>
  Math.round((16 * count) / Math.max(1, ...counts));
</script>

<template>
  <PageHead title="Surveys" :sentence="sentence" />
  <div class="tools">
    <fieldset class="looks">
      <legend class="sr-only">Put together by</legend>
      <label v-for="way in ways" :key="way.value" :class="{ on: (by ?? 'person') === way.value }">
        <input
          class="sr-only"
          type="radio"
          name="survey-by"
          :checked="(by ?? 'person') === way.value"
          @change="by = way.value === ('person' satisfies SurveyBy) ? null : way.value"
        />
        {{ way.title }}
      </label>
    </fieldset>
    <StretchField v-model="stretch" label="Days" :today="today" toward="past" /><ZoneNote />
  </div>
  <EmptyLine
    v-if="query.data.value !== undefined && rows.length === 0"
    text="Nobody was asked yet. Put “After the talk” before the queue in a plan, and a Survey on its branch."
  />
  <LedgerTable v-else :columns="columns" :rows="rows" caption="Answers of callers">
    <template #spread="{ row }">
      <span
        class="spread"
        role="img"
        :aria-label="row.counts.map((count, index) => `${index + 1}: ${figure(count)}`).join(', ')"
      >
        <span v-for="(count, index) in row.counts" :key="index" :title="`${index + 1}: ${figure(count)}`"
          ><i :style="{ height: `${height(count, row.counts)}px` }"></i
        ></span>
      </span>
    </template>
    <template #answers="{ row }">{{ figure(row.answers) }}</template>
    <template #mean="{ row }">{{ meanWords(row.mean) }}</template>
  </LedgerTable>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 24px;
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule);
  flex: none;
}
.spread {
  display: inline-grid;
  grid-template-columns: repeat(5, 22px);
  gap: 6px;
  height: 18px;
  align-items: end;
}
.spread > span {
  border-bottom: 1px solid var(--rule2);
}
.spread i {
  display: block;
  background: var(--rope-d);
}
</style>

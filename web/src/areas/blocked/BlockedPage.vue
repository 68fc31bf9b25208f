<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import type { BlockedView } from '@night-bell/core/contracts/blocked';
import DayField from '../../kit/DayField.vue';
import ItemPage from '../../kit/ItemPage.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import LedgerField from '../../kit/LedgerField.vue';
import { dayOf, instantOf, useClock } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { blockedArea, dayMs, isOver, kindTitles, whoWords } from './words.ts';

/** Callers who are turned away before anything rings. */
defineProps<{ id?: string }>();
const session = useSession();
const live = useLive();
const { date, moment } = useClock();
const kinds = Object.entries(kindTitles).map(([value, title]) => ({ value, title }));
const columns = [
  { key: 'name', title: 'Name', sort: (row: BlockedView) => row.name },
  { key: 'who', title: 'Who', width: '180px', mono: true, sort: (row: BlockedView) => row.digits },
  {
    key: 'hits',
    title: 'Turned away',
    width: '96px',
    right: true,
    mono: true,
    sort: (row: BlockedView) => row.hits,
  },
  {
    key: 'last',
    title: 'Latest',
    width: '130px',
    time: true as const,
    mono: true,
    sort: (row: BlockedView) => row.lastHit ?? 0,
  },
  {
    key: 'until',
    title: 'Until',
    width: '110px',
    sort: (row: BlockedView) => row.until ?? Number.MAX_SAFE_INTEGER,
  },
];
function sentence(inUse: BlockedView[]): string {
  const holding = inUse.filter((each) => !isOver(each, live.now));
  const hits = inUse.reduce((sum, { hits: count }) => sum + count, 0);
  const count = holding.length === 1 ? '1 entry' : `${holding.length.toLocaleString(locale.value)} entries`;
  return hits === 0
    ? `${count} in force`
    : `${count} in force, ${hits.toLocaleString(locale.value)} calls turned away`;
}
/** The end of that day, by the company's clock. */
const endOf = (day: string) => instantOf(`${day}T00:00`, session.timeZone) + dayMs;
</script>

<template>
  <ItemPage
    :id="id"
    :area="blockedArea"
    :columns="columns"
    :sentence="sentence"
    empty="Nobody is turned away. A caller is put here from their call, in one press."
  >
    <template #cell-who="{ row }">{{ whoWords(row) }}</template>
    <template #cell-hits="{ row }">{{ row.hits || '' }}</template>
    <template #cell-last="{ row }">{{ row.lastHit === null ? '' : moment(row.lastHit) }}</template>
    <template #cell-until="{ row }">
      <span :class="{ second: isOver(row, live.now) }">{{
        row.until === null ? 'for good' : isOver(row, live.now) ? 'over' : date(row.until - 1)
      }}</span>
    </template>
    <template #sheet="{ item, close, choose }">
      <ItemSheet :key="item?.id ?? 'new'" :area="blockedArea" :item="item" @close="close()" @made="choose">
        <template #default="{ draft, faults, readonly }">
          <LedgerField label="Who" for="blocked-kind" :fault="faults['/kind']">
            <v-select
              id="blocked-kind"
              v-model="draft.kind"
              :items="kinds"
              :readonly="readonly"
              @update:model-value="draft.kind === 'withheld' && (draft.digits = '')"
            />
          </LedgerField>
          <LedgerField
            v-if="draft.kind !== 'withheld'"
            label="Digits"
            for="blocked-digits"
            :fault="faults['/digits']"
            hint="With the country code in front. Never a number of ours, nor one that is called for help."
          >
            <v-text-field
              id="blocked-digits"
              :model-value="draft.digits"
              :readonly="readonly"
              class="mono"
              :placeholder="draft.kind === 'prefix' ? '+1360' : '+1 360 555 0117'"
              @update:model-value="draft.digits = $event.replace(/[^+\d]/g, '')"
            />
          </LedgerField>
          <LedgerField label="Until" for="blocked-until" :fault="faults['/until']">
            <v-checkbox
              :model-value="draft.until === null"
              label="for good"
              :readonly="readonly"
              @update:model-value="draft.until = $event ? null : live.now + 90 * dayMs"
            />
            <DayField
              v-if="draft.until !== null"
              id="blocked-until"
              label="Until the end of"
              :today="dayOf(live.now, session.timeZone)"
              :model-value="dayOf(draft.until - 1, session.timeZone)"
              :readonly="readonly"
              @update:model-value="draft.until = endOf($event)"
            />
          </LedgerField>
          <LedgerField label="Why" for="blocked-why" :fault="faults['/why']">
            <v-text-field id="blocked-why" v-model="draft.why" :readonly="readonly" />
          </LedgerField>
        </template>
        <template #beside="{ item: shown }">
          <p class="small second">
            {{
              shown.lastHit === null
                ? 'Nobody was turned away by it yet.'
                : `${shown.hits.toLocaleString(locale)} calls turned away, the latest ${moment(shown.lastHit)}.`
            }}
            After a call for help nobody is turned away for an hour: whoever calls back is let in.
          </p>
        </template>
      </ItemSheet>
    </template>
  </ItemPage>
</template>

<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, ref } from 'vue';
import { api, ask, type Change } from '../../api/client.ts';
import { changeWords } from '../../kit/changes.ts';
import type { Stretch } from '../../kit/days.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { useListLook } from '../../kit/list-view.ts';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import SaveList from '../../kit/SaveList.vue';
import Sheet from '../../kit/Sheet.vue';
import StretchField from '../../kit/StretchField.vue';
import ZoneNote from '../../kit/ZoneNote.vue';
import ThingField from '../../kit/ThingField.vue';
import { dayOf, instantsOf, useClock } from '../../kit/time.ts';
import { pageOfItem } from '../../kit/finding.ts';
import { useAddress } from '../../shell/address.ts';
import { useDirectory } from '../../shell/directory.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { usePages } from '../../shell/pages.ts';
import { useSession } from '../../shell/session.ts';
import { fieldWord, kindWord, trailKinds, valueWords } from './words.ts';

/** Who changed what, of everything; a change of fields can be taken back from here. */
const address = useAddress();
const directory = useDirectory();
const live = useLive();
const notices = useNotices();
const session = useSession();
const { moment } = useClock();
const personId = address.choice('by');
const kind = address.choice('kind');
const from = address.part('from');
const to = address.part('to');
const chosenId = ref<string | null>(null);
const today = computed(() => dayOf(live.now, session.timeZone));
const stretch = computed({
  get: (): Stretch => ({ from: from.value, to: to.value }),
  set: (days) => address.put({ from: days.from, to: days.to }),
});

const asked = computed(() => ({
  personId: personId.value,
  kind: kind.value,
  ...instantsOf(stretch.value, session.timeZone),
}));
const {
  rows: changes,
  total,
  failed,
  more,
  load,
} = usePages<Change>('change', '/api/changes', () => asked.value, Object.keys(trailKinds));
const rows = computed(() => (changes.value ?? []).map((change) => ({ ...change, id: String(change.id) })));
type Row = (typeof rows.value)[number];
const chosen = computed(() => rows.value.find(({ id }) => id === chosenId.value) ?? null);

const sentence = computed(() => {
  if (total.value === null) return 'Reading the trail.';
  const count = total.value === 1 ? '1 change' : `${total.value.toLocaleString(locale.value)} changes`;
  return Object.values(asked.value).some((part) => part !== null)
    ? `${count} fit`
    : `${count} since the beginning`;
});
const what = (row: Row) =>
  row.takesBack === null ? (changeWords[row.what] ?? row.what) : 'Took a change back';
const told = (value: unknown) => valueWords(value, directory.nameOf);
const fields = (row: Row) =>
  row.about ??
  (row.what === 'changed' ? row.fields.map(({ field }) => fieldWord(row.itemKind, field)).join(', ') : '');

const columns = computed(() => [
  { key: 'at', title: 'When', width: '128px', time: true as const, mono: true },
  { key: 'by', title: 'Who', width: '150px' },
  { key: 'what', title: 'What', width: '130px' },
  { key: 'item', title: 'Of', width: '30%' },
  ...(chosen.value === null ? [{ key: 'fields', title: 'Fields' }] : []),
]);
const look = useListLook('changes', () => columns.value);
const kinds = [
  { value: null, title: 'everything' },
  ...Object.entries(trailKinds).map(([value, title]) => ({ value, title })),
];

async function takeBack(row: Row): Promise<void> {
  try {
    await ask(api.POST('/api/changes/{id}/take-back', { params: { path: { id: Number(row.id) } } }));
    notices.say('Taken back.');
    await load();
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <PageHead title="Changes" :sentence="sentence">
    <ViewMenu :look="look" />
    <SaveList list="changes" :asked="asked" />
  </PageHead>
  <div class="split">
    <div class="list">
      <Narrowing>
        Show changes of
        <v-select v-model="kind" aria-label="Of what" :items="kinds" />
        by
        <ThingField v-model="personId" label="By whom" :kinds="['person']" none="anybody" />
        on
        <StretchField v-model="stretch" label="Days" :today="today" toward="past" /><ZoneNote />
      </Narrowing>
      <LedgerTable
        caption="Changes"
        :columns="look.shown.value"
        :rows="rows"
        :total="total"
        :chosen="chosenId"
        @choose="chosenId = $event.id"
        @end="more"
      >
        <template #at="{ row }">{{ moment(row.at) }}</template>
        <template #by="{ row }">{{ row.by ?? 'Night Bell' }}</template>
        <template #what="{ row }">{{ what(row) }}</template>
        <template #item="{ row }"
          >{{ row.itemName }} <span class="second">{{ kindWord(row.itemKind).toLowerCase() }}</span></template
        >
        <template #fields="{ row }"
          ><span class="second">{{ fields(row) }}</span></template
        >
        <template #empty>
          <EmptyLine v-if="failed" text="The trail could not be read.">
            <v-btn @click="load()">Read it again</v-btn>
          </EmptyLine>
          <EmptyLine v-else-if="changes !== null" text="Nothing was changed that fits this sentence." />
        </template>
      </LedgerTable>
    </div>
    <Sheet
      v-if="chosen"
      :title="`${what(chosen)}: ${chosen.itemName}`"
      :second="`${moment(chosen.at)}, by ${chosen.by ?? 'Night Bell'}`"
      @close="chosenId = null"
    >
      <section v-if="chosen.about">{{ chosen.about }}</section>
      <section v-if="chosen.what === 'changed'">
        <dl>
          <template v-for="field in chosen.fields" :key="field.field">
            <dt>{{ fieldWord(chosen.itemKind, field.field) }}</dt>
            <dd>
              <span class="second">{{ told(field.before) }}</span> → {{ told(field.after) }}
            </dd>
          </template>
        </dl>
      </section>
      <section class="buttons">
        <v-btn v-if="chosen.canBeTakenBack && session.mayEdit" @click="takeBack(chosen)">Take back</v-btn>
        <router-link v-if="pageOfItem[chosen.itemKind]" :to="pageOfItem[chosen.itemKind]!(chosen.itemId)"
          >Open {{ chosen.itemName }}</router-link
        >
      </section>
    </Sheet>
  </div>
</template>

<style scoped>
.narrowing :deep(.v-select),
.narrowing :deep(.v-autocomplete) {
  flex: 0 1 150px;
}
.narrowing :deep(.stretch) {
  flex: 0 1 190px;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0 0 8px;
  overflow-wrap: anywhere;
}
</style>

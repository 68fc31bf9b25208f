<script setup lang="ts">
import { computed } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import { useItemList } from '../../shell/item-list.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import NumberSheet from './NumberSheet.vue';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const session = useSession();
const { making, choose, add, close } = useItemList('/numbers');

/** Unrouted numbers first: they must not hide. */
const rows = computed(() => {
  const numbers = setUp.numbers ?? [];
  return [
    ...numbers.filter((number) => number.destination === null),
    ...numbers.filter((number) => number.destination !== null),
  ];
});
const chosen = computed(() => (setUp.numbers ?? []).find((number) => number.id === props.id));
const sentence = computed(() => {
  if (setUp.numbers === null) return 'Reading the list.';
  const unrouted = rows.value.filter((number) => number.destination === null).length;
  const numbers = rows.value.length === 1 ? '1 number' : `${rows.value.length} numbers`;
  return `${numbers}, ${unrouted === 0 ? 'all lead somewhere' : `${unrouted} lead${unrouted === 1 ? 's' : ''} nowhere`}`;
});

const kindWords = { queue: 'queue', person: 'person', voicemail: 'voicemail', outside: 'outside', end: '' };
const columns = [
  { key: 'e164', title: 'Number', width: '160px', mono: true },
  { key: 'label', title: 'Label' },
  { key: 'leadsTo', title: 'Leads to' },
  { key: 'kind', title: '', width: '100px' },
];
</script>

<template>
  <PageHead title="Numbers" :sentence="sentence">
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New number<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="split">
    <LedgerTable caption="Numbers" :columns="columns" :rows="rows" :chosen="props.id" @choose="choose">
      <template #e164="{ row }">{{ formatNumber(row.e164) }}</template>
      <template #leadsTo="{ row }">
        <span v-if="row.destination === null" class="nowhere"><Shape name="missing" /> Nowhere</span>
        <template v-else>{{ row.destinationName }}</template>
      </template>
      <template #kind="{ row }"
        ><span class="second">{{
          row.destination === null ? '' : kindWords[row.destination.kind]
        }}</span></template
      >
      <template #empty>
        <EmptyLine
          v-if="setUp.numbers !== null"
          text="No number yet. Callers come in on numbers; each leads to a queue, a person or a voicemail box."
        >
          <v-btn v-if="session.mayEdit" @click="add">New number</v-btn>
        </EmptyLine>
      </template>
    </LedgerTable>
    <NumberSheet v-if="making" key="new" :number="null" @close="close" @made="choose" />
    <NumberSheet v-else-if="chosen" :key="chosen.id" :number="chosen" @close="close" @made="choose" />
  </div>
</template>

<style scoped>
.split {
  flex: 1;
  display: flex;
  min-height: 0;
}
.nowhere {
  font-weight: 600;
}
</style>

<script setup lang="ts">
import type { RingGroupView } from '@night-bell/core/contracts/ring-groups';
import ItemPage from '../../kit/ItemPage.vue';
import type { Column } from '../../kit/ledger.ts';
import { figure } from '../../kit/locale.ts';
import Shape from '../../kit/Shape.vue';
import { useSetUp } from '../../shell/set-up.ts';
import RingGroupSheet from './RingGroupSheet.vue';
import { destinationWords, noWay, orderWords, ringGroupArea } from './words.ts';

/** A few phones that ring together or in turn. */
defineProps<{ id?: string }>();
const setUp = useSetUp();
const area = ringGroupArea(setUp.nameOf);
const sentence = (inUse: RingGroupView[]) =>
  inUse.length === 1 ? '1 ring group' : `${figure(inUse.length)} ring groups`;
const outside = ({ targets }: RingGroupView) => targets.filter(({ kind }) => kind === 'outside').length;

const columns: Column<RingGroupView>[] = [
  { key: 'extension', title: 'Ext', width: '64px', mono: true, sort: (row) => row.extension ?? '' },
  { key: 'name', title: 'Name', sort: (row) => row.name },
  { key: 'people', title: 'People', width: '72px', right: true, mono: true, sort: (row) => row.peopleCount },
  { key: 'order', title: 'Rings', width: '110px', sort: (row) => orderWords[row.order] },
  { key: 'rounds', title: 'Rounds', width: '72px', right: true, mono: true, roomy: true },
  { key: 'whenUnanswered', title: 'When nobody lifts', width: '220px', roomy: true },
  { key: 'note', title: '', width: '150px' },
];
</script>

<template>
  <ItemPage
    :id="id"
    :area="area"
    :columns="columns"
    :sentence="sentence"
    empty="No ring group yet. In one a few phones ring together or in turn, and nobody waits."
  >
    <template #cell-people="{ row }">{{ figure(row.peopleCount) }}</template>
    <template #cell-order="{ row }">{{ orderWords[row.order] }}</template>
    <template #cell-rounds="{ row }">{{ row.rounds }}</template>
    <template #cell-whenUnanswered="{ row }"
      ><span class="second">{{
        destinationWords(row.whenUnanswered, noWay.whenUnanswered, setUp.nameOf)
      }}</span></template
    >
    <template #cell-note="{ row }">
      <span v-if="!row.retired && row.peopleCount + outside(row) === 0"
        ><Shape name="missing" /> Nobody in it yet</span
      >
    </template>
    <template #sheet="{ item, close, choose }">
      <RingGroupSheet :key="item?.id ?? 'new'" :item="item" @close="close()" @made="choose" />
    </template>
  </ItemPage>
</template>

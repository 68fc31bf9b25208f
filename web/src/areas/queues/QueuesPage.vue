<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import type { QueueView } from '@night-bell/core/contracts/queues';
import { span } from '@night-bell/core/story/span';
import ItemPage from '../../kit/ItemPage.vue';
import type { Column } from '../../kit/ledger.ts';
import Shape from '../../kit/Shape.vue';
import { useLive } from '../../shell/live.ts';
import { useSetUp } from '../../shell/set-up.ts';
import QueueSheet from './QueueSheet.vue';
import { distributionWords, queueArea } from './words.ts';

defineProps<{ id?: string }>();
const live = useLive();
const area = queueArea(useSetUp().nameOf);

const waitingIn = (id: string) => {
  const now = live.queues.get(id);
  return now === undefined ? 0 : now.waiting + now.offering;
};
function sentence(inUse: QueueView[]): string {
  const waiting = inUse.reduce((sum, { id }) => sum + waitingIn(id), 0);
  const queues = inUse.length === 1 ? '1 queue' : `${inUse.length.toLocaleString(locale.value)} queues`;
  return `${queues}, ${waiting === 0 ? 'nobody waits' : waiting === 1 ? '1 caller waits' : `${waiting} callers wait`}`;
}

const columns: Column<QueueView>[] = [
  {
    key: 'extension',
    title: 'Ext',
    width: '64px',
    mono: true,
    sort: (row: QueueView) => row.extension ?? '',
  },
  { key: 'name', title: 'Name', sort: (row: QueueView) => row.name },
  {
    key: 'people',
    title: 'People',
    width: '72px',
    right: true,
    mono: true,
    sort: (row: QueueView) => row.peopleCount,
  },
  {
    key: 'distribution',
    title: 'Rings',
    width: '124px',
    roomy: true,
    sort: (row: QueueView) => distributionWords[row.distribution],
  },
  { key: 'signedIn', title: 'Signed in', width: '80px', right: true, mono: true },
  { key: 'free', title: 'Free', width: '60px', right: true, mono: true },
  {
    key: 'waiting',
    title: 'Waiting',
    width: '76px',
    right: true,
    mono: true,
    sort: (row: QueueView) => waitingIn(row.id),
  },
  { key: 'longest', title: 'Longest', width: '76px', right: true, mono: true },
  {
    key: 'ring',
    title: 'Rings each, wrap-up',
    width: '160px',
    right: true,
    mono: true,
    roomy: true,
  },
  { key: 'note', title: '', roomy: true },
];
</script>

<template>
  <ItemPage
    :id="id"
    :area="area"
    :columns="columns"
    :sentence="sentence"
    empty="No queue yet. A queue holds callers until one of its members is free."
  >
    <template #cell-people="{ row }">{{ row.peopleCount }}</template>
    <template #cell-distribution="{ row }">{{ distributionWords[row.distribution] }}</template>
    <template #cell-signedIn="{ row }">{{ live.queues.get(row.id)?.signedIn ?? 0 }}</template>
    <template #cell-free="{ row }">{{ live.queues.get(row.id)?.idle ?? 0 }}</template>
    <template #cell-waiting="{ row }">{{ waitingIn(row.id) || '' }}</template>
    <template #cell-longest="{ row }">
      {{
        live.queues.get(row.id)?.longestSince ? span(live.now - live.queues.get(row.id)!.longestSince!) : ''
      }}
    </template>
    <template #cell-ring="{ row }">{{ row.ringSeconds }} s, {{ row.wrapUpSeconds }} s</template>
    <template #cell-note="{ row }">
      <span v-if="!row.retired && row.peopleCount === 0"><Shape name="missing" /> No members yet</span>
      <span v-else-if="!row.retired && row.whenNobody === null && row.maxWaitSeconds === null"
        ><Shape name="missing" /> Callers can wait without end</span
      >
    </template>
    <template #sheet="{ item, close, choose }">
      <QueueSheet :key="item?.id ?? 'new'" :item="item" @close="close()" @made="choose" />
    </template>
  </ItemPage>
</template>

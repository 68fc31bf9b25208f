<script setup lang="ts">
import { computed } from 'vue';
import type { Queue } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import SaveList from '../../kit/SaveList.vue';
import Shape from '../../kit/Shape.vue';
import { span } from '@night-bell/core/story/span';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import QueueSheet from './QueueSheet.vue';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const { making, choose, add, close } = useItemList('/queues');
const address = useAddress();
const sort = address.part('sort');
const withRetired = address.flag('deactivated');

const waitingIn = (id: string) => {
  const now = live.queues.get(id);
  return now === undefined ? 0 : now.waiting + now.offering;
};
const rows = computed(() => (setUp.queues ?? []).filter((queue) => !queue.retired || withRetired.value));
const sentence = computed(() => {
  const waiting = [...live.queues.values()].reduce((sum, queue) => sum + queue.waiting + queue.offering, 0);
  const queues = rows.value.length === 1 ? '1 queue' : `${rows.value.length} queues`;
  return setUp.queues === null
    ? 'Reading the list.'
    : `${queues}, ${waiting === 0 ? 'nobody waits' : waiting === 1 ? '1 caller waits' : `${waiting} callers wait`}`;
});

const columns = computed(() => [
  {
    key: 'extension',
    title: 'Ext',
    width: '64px',
    mono: true,
    sort: (row: Queue) => row.extension ?? '',
  },
  { key: 'name', title: 'Name', sort: (row: Queue) => row.name },
  {
    key: 'people',
    title: 'People',
    width: '72px',
    right: true,
    mono: true,
    sort: (row: Queue) => row.peopleCount,
  },
  { key: 'signedIn', title: 'Signed in', width: '80px', right: true, mono: true },
  { key: 'free', title: 'Free', width: '60px', right: true, mono: true },
  {
    key: 'waiting',
    title: 'Waiting',
    width: '76px',
    right: true,
    mono: true,
    sort: (row: Queue) => waitingIn(row.id),
  },
  { key: 'longest', title: 'Longest', width: '76px', right: true, mono: true },
  {
    key: 'ring',
    title: 'Rings each, wrap-up',
    width: '160px',
    right: true,
    mono: true,
    hidden: props.id !== undefined || making.value,
  },
  { key: 'note', title: '', hidden: props.id !== undefined || making.value },
]);
</script>

<template>
  <PageHead title="Queues" :sentence="sentence">
    <SaveList v-if="rows.length > 0" list="queues" :asked="{ withRetired: withRetired ? 'true' : null }" />
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New queue<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="split">
    <LedgerTable
      v-model:sort="sort"
      caption="Queues"
      :columns="columns"
      :rows="rows"
      :chosen="props.id"
      @choose="choose"
    >
      <template #name="{ row }">
        {{ row.name }} <span v-if="row.retired" class="second">deactivated</span>
      </template>
      <template #people="{ row }">{{ row.peopleCount }}</template>
      <template #signedIn="{ row }">{{ live.queues.get(row.id)?.signedIn ?? 0 }}</template>
      <template #free="{ row }">{{ live.queues.get(row.id)?.idle ?? 0 }}</template>
      <template #waiting="{ row }">{{ waitingIn(row.id) || '' }}</template>
      <template #longest="{ row }">
        {{
          live.queues.get(row.id)?.longestSince ? span(live.now - live.queues.get(row.id)!.longestSince!) : ''
        }}
      </template>
      <template #ring="{ row }">{{ row.ringSeconds }} s, {{ row.wrapUpSeconds }} s</template>
      <template #note="{ row }">
        <span v-if="!row.retired && row.peopleCount === 0"><Shape name="missing" /> No members yet</span>
        <span v-else-if="!row.retired && row.whenNobody === null && row.maxWaitSeconds === null"
          ><Shape name="missing" /> Callers can wait without end</span
        >
      </template>
      <template #empty>
        <EmptyLine
          v-if="setUp.queues !== null"
          text="No queue yet. A queue holds callers until one of its members is free."
        >
          <v-btn v-if="session.mayEdit" @click="add">New queue</v-btn>
        </EmptyLine>
      </template>
    </LedgerTable>
    <QueueSheet v-if="making" key="new" :queue="null" @close="close" @made="choose" />
    <QueueSheet
      v-else-if="props.id && setUp.queueById.get(props.id)"
      :key="props.id"
      :queue="setUp.queueById.get(props.id)!"
      @close="close"
      @made="choose"
    />
  </div>
</template>

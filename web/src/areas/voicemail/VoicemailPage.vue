<script setup lang="ts">
import { figure } from '../../kit/locale.ts';
import { computed } from 'vue';
import type { VoicemailBoxView } from '@night-bell/core/contracts/voicemail-boxes';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import SaveList from '../../kit/SaveList.vue';
import Shape from '../../kit/Shape.vue';
import { useClock } from '../../kit/time.ts';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useOne } from '../../shell/one.ts';
import { useCount, usePages } from '../../shell/pages.ts';
import { useSession } from '../../shell/session.ts';
import { useVoicemail } from '../../shell/voicemail.ts';
import BoxSheet from './BoxSheet.vue';
import MessageList from './MessageList.vue';
import { shortName, voicemailApi } from './words.ts';

/** Voicemail boxes, what is in the chosen one, and its settings beside. */
const props = defineProps<{ id?: string }>();
const { boxes: audible } = useVoicemail();
const session = useSession();
const { date } = useClock();
const { making, choose, add, close } = useItemList('/voicemail');
const address = useAddress();
const withRetired = address.flag('deactivated');
const find = address.part('find');
const sort = address.part('sort');
const only = address.choice('of');
const kinds = [
  { value: null, title: 'all boxes' },
  { value: 'new', title: 'boxes with new messages' },
  { value: 'shared', title: 'shared boxes' },
  { value: 'queue', title: 'boxes of queues' },
  { value: 'ringGroup', title: 'boxes of ring groups' },
  { value: 'person', title: 'boxes of people' },
];

const asked = computed(() => ({
  search: find.value.trim(),
  only: only.value,
  withRetired: String(withRetired.value),
  sort: sort.value.replace(/^-/, '') || null,
  down: sort.value.startsWith('-') ? 'true' : null,
}));
const { path } = voicemailApi;
const { rows, total, failed, more, load } = usePages<VoicemailBoxView>('voicemail', path, () => asked.value, [
  'person',
  'queue',
  'ringGroup',
]);
const inUse = useCount('voicemail', path, () => ({ withRetired: 'false' }));
const withNew = useCount('voicemail', path, () => ({ withRetired: 'false', only: 'new' }));
const { item: chosen } = useOne('voicemail', voicemailApi.read, () => props.id);
const isAudible = computed(() => audible.value?.some(({ id }) => id === props.id) ?? true);
const sentence = computed(() => {
  if (inUse.value === null || withNew.value === null) return 'Reading the list.';
  const boxes = inUse.value === 1 ? '1 box' : `${figure(inUse.value)} boxes`;
  if (withNew.value === 0) return `${boxes}, no new messages`;
  const oldest = sort.value === '' ? (rows.value?.[0]?.oldestFresh ?? null) : null;
  return `${boxes}, ${figure(withNew.value)} with new messages${oldest === null ? '' : `, the oldest of ${date(oldest)}`}`;
});
const columns = [
  { key: 'name', title: 'Box', sort: true as const },
  { key: 'since', title: 'Since', width: '64px', sort: true as const },
  { key: 'fresh', title: 'New', width: '48px', right: true, mono: true, sort: true as const },
  { key: 'held', title: 'All', width: '48px', right: true, mono: true, sort: true as const },
];
</script>

<template>
  <PageHead title="Voicemail boxes" :sentence="sentence">
    <SaveList list="voicemailBoxes" />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New box<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <Narrowing>
    <v-text-field v-model="find" aria-label="Find a box" placeholder="Find" class="find" />
    <v-select v-model="only" aria-label="Which boxes" :items="kinds" class="kinds" />
    <v-checkbox v-model="withRetired" label="with deactivated" />
  </Narrowing>
  <div class="three" :class="{ chosen: chosen !== null || making }">
    <LedgerTable
      v-model:sort="sort"
      class="boxes"
      caption="Voicemail boxes"
      :columns="columns"
      :rows="rows ?? []"
      :total="total"
      :chosen="id"
      @choose="choose"
      @end="more"
    >
      <template #name="{ row }"
        ><Shape :name="row.fresh > 0 ? 'messageNew' : 'messageHeard'" :class="{ none: row.held === 0 }" />
        <b v-if="row.fresh > 0" class="name" :title="row.name">{{ shortName(row.name) }}</b><span
          v-else
          class="name"
          :title="row.name"
          >{{ shortName(row.name) }}</span
        >
        <span v-if="row.retired" class="second"> deactivated</span></template
      >
      <template #since="{ row }">
        <span class="second">{{
          row.oldestFresh === null ? '' : date(row.oldestFresh).replace(/^\w+ /, '')
        }}</span>
      </template>
      <template #fresh="{ row }">{{ row.fresh || '' }}</template>
      <template #held="{ row }"
        ><span class="second">{{ row.held || '–' }}</span></template
      >
      <template #empty>
        <EmptyLine v-if="failed" text="The list could not be read.">
          <v-btn @click="load()">Read it again</v-btn>
        </EmptyLine>
        <EmptyLine v-else-if="rows !== null && (find !== '' || only !== null)" text="No box is like that.">
          <v-btn @click="address.put({ find: '', of: '' })">Show all</v-btn>
        </EmptyLine>
        <EmptyLine
          v-else-if="rows !== null"
          text="No boxes yet. People and queues come with one; a shared one is made here."
        >
          <v-btn v-if="session.mayEdit" @click="add">New box</v-btn>
        </EmptyLine>
      </template>
    </LedgerTable>
    <template v-if="chosen && !making">
      <MessageList v-if="isAudible" class="list" :box-id="chosen.id" :keep-days="chosen.keepDays" />
      <section v-else class="list silent">
        <EmptyLine
          :text="`${chosen.held === 0 ? 'No messages' : chosen.held === 1 ? '1 message' : `${chosen.held} messages`}, ${chosen.fresh} new. Only its owner, and those named beside, hear them.`"
        />
      </section>
    </template>
    <BoxSheet v-if="making" key="new" :item="null" @close="close" @made="choose" />
    <BoxSheet v-else-if="chosen" :key="chosen.id" :item="chosen" @close="close" @made="choose" />
  </div>
</template>

<style scoped>
.find {
  flex: 0 0 120px;
}
.kinds {
  flex: 0 0 180px;
}
.three {
  flex: 1;
  min-height: 0;
  display: flex;
}
.boxes {
  flex: 1;
  min-width: 280px;
}
.three.chosen .boxes {
  flex: 0 1 334px;
}
.list {
  flex: 1;
  min-width: 300px;
  border-left: 1px solid var(--rule2);
}
.name {
  margin-left: 6px;
}
.none {
  visibility: hidden;
}
@media (max-width: 1100px) {
  .three.chosen .boxes {
    display: none;
  }
}
</style>

<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed } from 'vue';
import type { VoicemailBoxView } from '@night-bell/core/contracts/voicemail-boxes';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import SaveList from '../../kit/SaveList.vue';
import Shape from '../../kit/Shape.vue';
import { useClock } from '../../kit/time.ts';
import { useAddress } from '../../shell/address.ts';
import { useCollection } from '../../shell/collection.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useSession } from '../../shell/session.ts';
import { useVoicemail } from '../../shell/voicemail.ts';
import BoxSheet from './BoxSheet.vue';
import MessageList from './MessageList.vue';
import { shortName, voicemailApi } from './words.ts';

/** Voicemail boxes, what is in the chosen one, and its settings beside. */
const props = defineProps<{ id?: string }>();
const { items, byId, failed, load } = useCollection(voicemailApi);
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
  { value: 'person', title: 'boxes of people' },
];

const inUse = computed(() => (items.value ?? []).filter((box) => !box.retired || withRetired.value));
/** Those with new messages first, the oldest of them on top. */
const rows = computed(() => {
  const text = find.value.trim().toLowerCase();
  return inUse.value
    .filter(
      (box) =>
        (only.value === null ||
          (only.value === 'new' ? box.fresh > 0 : (box.ownerKind ?? 'shared') === only.value)) &&
        (box.name.toLowerCase().includes(text) || (box.extension ?? '').includes(text)),
    )
    .sort(
      (one, other) =>
        Number(other.fresh > 0) - Number(one.fresh > 0) || (one.oldestFresh ?? 0) - (other.oldestFresh ?? 0),
    );
});
const chosen = computed(() => byId.value.get(props.id ?? '') ?? null);
const isAudible = computed(() => audible.value?.some(({ id }) => id === props.id) ?? true);
const sentence = computed(() => {
  if (items.value === null) return 'Reading the list.';
  const fresh = inUse.value.reduce((sum, box) => sum + box.fresh, 0);
  const boxes =
    inUse.value.length === 1 ? '1 box' : `${inUse.value.length.toLocaleString(locale.value)} boxes`;
  if (fresh === 0) return `${boxes}, no new messages`;
  const oldest = Math.min(...inUse.value.flatMap((box) => box.oldestFresh ?? []));
  return `${boxes}, ${fresh === 1 ? '1 new message' : `${fresh.toLocaleString(locale.value)} new messages`}, the oldest of ${date(oldest)}`;
});
const columns = [
  { key: 'name', title: 'Box', sort: (row: VoicemailBoxView) => row.name },
  { key: 'since', title: 'Since', width: '64px', sort: (row: VoicemailBoxView) => row.oldestFresh ?? 0 },
  {
    key: 'fresh',
    title: 'New',
    width: '38px',
    right: true,
    mono: true,
    sort: (row: VoicemailBoxView) => row.fresh,
  },
  {
    key: 'held',
    title: 'All',
    width: '38px',
    right: true,
    mono: true,
    sort: (row: VoicemailBoxView) => row.held,
  },
];
</script>

<template>
  <PageHead title="Voicemail boxes" :sentence="sentence">
    <SaveList list="voicemailBoxes" />
    <v-text-field v-model="find" aria-label="Find a box" placeholder="Find" class="find" />
    <v-select v-model="only" aria-label="Which boxes" :items="kinds" class="kinds" />
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New box<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="three" :class="{ chosen: chosen !== null || making }">
    <LedgerTable
      v-model:sort="sort"
      class="boxes"
      caption="Voicemail boxes"
      :columns="columns"
      :rows="rows"
      :chosen="id"
      @choose="choose"
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
        <EmptyLine v-else-if="items !== null && (find !== '' || only !== null)" text="No box is like that.">
          <v-btn
            @click="
              find = '';
              only = null;
            "
            >Show all</v-btn
          >
        </EmptyLine>
        <EmptyLine
          v-else-if="items !== null"
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
  flex: 0 0 110px;
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
  flex: 0 1 324px;
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

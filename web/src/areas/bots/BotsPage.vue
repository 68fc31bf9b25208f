<script setup lang="ts">
import type { BotView } from '@night-bell/core/contracts/bots';
import ItemPage from '../../kit/ItemPage.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import TextLine from '../../kit/TextLine.vue';
import { useSession } from '../../shell/session.ts';
import BotTrial from './BotTrial.vue';
import { botArea, botExample } from './words.ts';

/** Bots outside that plans hand callers to. */
defineProps<{ id?: string }>();
const session = useSession();
const columns = [
  { key: 'name', title: 'Bot', width: '220px', sort: (row: BotView) => row.name },
  { key: 'address', title: 'Address', mono: true, sort: (row: BotView) => row.address },
  {
    ...{ key: 'limitSeconds', title: 'Seconds', width: '90px', right: true, mono: true },
    sort: (row: BotView) => row.limitSeconds,
  },
  { key: 'uses', title: 'Plans', width: '80px', right: true, mono: true, sort: (row: BotView) => row.uses },
];
const sentence = (inUse: BotView[]) => (inUse.length === 1 ? '1 bot' : `${inUse.length} bots`);
</script>

<template>
  <ItemPage
    :id="id"
    :area="botArea"
    :columns="columns"
    :sentence="sentence"
    empty="No bot yet. One talks with callers turn by turn from outside, over a small HTTP contract, and what it finds out goes on with the call."
  >
    <template #cell-uses="{ row }">{{ row.uses || '' }}</template>
    <template #sheet="{ item, close, choose }">
      <ItemSheet :key="item?.id ?? 'new'" :area="botArea" :item="item" @close="close()" @made="choose">
        <template #default="{ draft }">
          <TextLine
            v-model="draft.address"
            field="address"
            label="Address"
            mono
            :placeholder="botExample"
            hint="Each turn of a call is posted there."
          />
          <TextLine
            v-if="session.mayEdit"
            v-model="draft.key"
            field="key"
            label="Key"
            mono
            password
            emptied="undefined"
            :placeholder="item?.hasKey ? 'kept' : 'none'"
            hint="Sent as a bearer token. It is kept sealed and never shown."
          />
          <TextLine
            v-model="draft.limitSeconds"
            field="limitSeconds"
            label="Seconds to answer"
            figure
            hint="1 to 15, for each turn. A plan says where callers go when it does not."
          />
          <TextLine
            v-model="draft.mostTurns"
            field="mostTurns"
            label="Most turns"
            figure
            hint="1 to 50. Then the plan takes the caller back."
          />
        </template>
        <template #beside="{ item: shown }"><BotTrial :key="shown.id" :bot="shown" /></template>
      </ItemSheet>
    </template>
  </ItemPage>
</template>

<script setup lang="ts">
import { ref, watch } from 'vue';
import { api, ask, type Trunk, type TrunkState } from '../../api/client.ts';
import ItemPage from '../../kit/ItemPage.vue';
import type { Column } from '../../kit/ledger.ts';
import StateWord from '../../kit/StateWord.vue';
import { useLive } from '../../shell/live.ts';
import { useSetUp } from '../../shell/set-up.ts';
import TrunkSheet from './TrunkSheet.vue';
import { trunkArea, trunkStateWords } from './words.ts';

defineProps<{ id?: string }>();
const setUp = useSetUp();
const live = useLive();
const states = ref(new Map<string, TrunkState>());
watch(
  [() => setUp.trunks, () => Math.floor(live.now / 4_000)],
  async () => {
    const answer = await ask(api.GET('/api/trunk-states')).catch(() => null);
    if (answer !== null) states.value = new Map(answer.map((state) => [state.id, state]));
  },
  { immediate: true },
);

function sentence(inUse: Trunk[]): string {
  if (inUse.length === 0) return 'No line out yet';
  const used = inUse.reduce((sum, { id }) => sum + (live.trunks.get(id)?.inUse ?? 0), 0);
  const all = inUse.reduce((sum, { channels }) => sum + channels, 0);
  return `${used} of ${all} channels in use`;
}

const shapeOf = ({ registration, reached }: TrunkState) =>
  registration === 'open' ? (reached ? 'up' : 'off') : registration;
const wordOf = ({ registration, reached }: TrunkState) =>
  registration === 'open' && !reached ? 'Not reached' : trunkStateWords[registration];

const columns: Column<Trunk>[] = [
  { key: 'name', title: 'Name', sort: (row) => row.name },
  { key: 'state', title: 'State', width: '130px' },
  { key: 'host', title: 'Provider', mono: true },
  { key: 'account', title: 'Account', mono: true },
  { key: 'used', title: 'In use', width: '80px', mono: true, right: true },
  { key: 'channels', title: 'Channels', width: '90px', mono: true, right: true },
];
</script>

<template>
  <ItemPage
    :id="id"
    :area="trunkArea(setUp.nameOf)"
    :columns="columns"
    :sentence="sentence"
    empty="No trunk yet. A trunk is the line to a provider: campaigns and outside numbers are dialled over it."
  >
    <template #cell-state="{ row }">
      <StateWord
        v-if="!row.retired && states.get(row.id)"
        :shape="shapeOf(states.get(row.id)!)"
        :word="wordOf(states.get(row.id)!)"
        :tone="states.get(row.id)!.what === '' ? undefined : 'fault'"
      />
    </template>
    <template #cell-used="{ row }">{{ live.trunks.get(row.id)?.inUse ?? 0 }}</template>
    <template #sheet="{ item, close, choose }">
      <TrunkSheet :key="item?.id ?? 'new'" :item="item" @close="close()" @made="choose" />
    </template>
  </ItemPage>
</template>

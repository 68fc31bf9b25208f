<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, type Trunk, type TrunkState } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import SaveList from '../../kit/SaveList.vue';
import StateWord from '../../kit/StateWord.vue';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import TrunkSheet from './TrunkSheet.vue';
import { trunkStateWords } from './words.ts';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const { making, choose, add, close } = useItemList('/trunks');
const address = useAddress();
const withRetired = address.flag('deactivated');
const sort = address.part('sort');
const states = ref(new Map<string, TrunkState>());
watch(
  [() => setUp.trunks, () => Math.floor(live.now / 4_000)],
  async () => {
    const answer = await ask(api.GET('/api/trunk-states')).catch(() => null);
    if (answer !== null) states.value = new Map(answer.map((state) => [state.id, state]));
  },
  { immediate: true },
);

const rows = computed(() => (setUp.trunks ?? []).filter((trunk) => !trunk.retired || withRetired.value));
const sentence = computed(() => {
  if (setUp.trunks === null) return 'Reading the list.';
  const used = [...live.trunks.values()].reduce((sum, trunk) => sum + trunk.inUse, 0);
  const all = rows.value.filter((trunk) => !trunk.retired).reduce((sum, trunk) => sum + trunk.channels, 0);
  return rows.value.length === 0 ? 'No line out yet' : `${used} of ${all} channels in use`;
});

const shapeOf = ({ registration, reached }: TrunkState) =>
  registration === 'open' ? (reached ? 'up' : 'off') : registration;
const wordOf = ({ registration, reached }: TrunkState) =>
  registration === 'open' && !reached ? 'Not reached' : trunkStateWords[registration];

const columns = [
  { key: 'name', title: 'Name', sort: (row: Trunk) => row.name },
  { key: 'state', title: 'State', width: '130px' },
  { key: 'host', title: 'Provider', mono: true },
  { key: 'account', title: 'Account', mono: true },
  { key: 'used', title: 'In use', width: '80px', mono: true, right: true },
  { key: 'channels', title: 'Channels', width: '90px', mono: true, right: true },
];
</script>

<template>
  <PageHead title="Trunks" :sentence="sentence">
    <SaveList v-if="rows.length > 0" list="trunks" :asked="{ withRetired: withRetired ? 'true' : null }" />
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New trunk<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="split">
    <LedgerTable
      v-model:sort="sort"
      caption="Trunks"
      :columns="columns"
      :rows="rows"
      :chosen="props.id"
      @choose="choose"
    >
      <template #name="{ row }">
        {{ row.name }} <span v-if="row.retired" class="second">deactivated</span>
      </template>
      <template #state="{ row }">
        <StateWord
          v-if="!row.retired && states.get(row.id)"
          :shape="shapeOf(states.get(row.id)!)"
          :word="wordOf(states.get(row.id)!)"
          :tone="states.get(row.id)!.what === '' ? undefined : 'fault'"
        />
      </template>
      <template #used="{ row }">{{ live.trunks.get(row.id)?.inUse ?? 0 }}</template>
      <template #empty>
        <EmptyLine
          v-if="setUp.trunks !== null"
          text="No trunk yet. A trunk is the line to a provider: campaigns and outside numbers are dialled over it."
        >
          <v-btn v-if="session.mayEdit" @click="add">New trunk</v-btn>
        </EmptyLine>
      </template>
    </LedgerTable>
    <TrunkSheet v-if="making" key="new" :trunk="null" @close="close" @made="choose" />
    <TrunkSheet
      v-else-if="props.id && setUp.trunkById.get(props.id)"
      :key="props.id"
      :trunk="setUp.trunkById.get(props.id)!"
      @close="close"
      @made="choose"
    />
  </div>
</template>

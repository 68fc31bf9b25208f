<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import { useRouter } from 'vue-router';
import { api, ApiProblem, ask, type Campaign } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import SaveList from '../../kit/SaveList.vue';
import StateWord from '../../kit/StateWord.vue';
import { useClock } from '../../kit/time.ts';
import { paceWords } from '@night-bell/core/story/words';
import { campaignWords } from '../../kit/words.ts';
import { useAddress } from '../../shell/address.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useStaying } from '../../shell/staying.ts';
import { useSetUp } from '../../shell/set-up.ts';

const setUp = useSetUp();
const live = useLive();
const session = useSession();
const router = useRouter();
const staying = useStaying();
const { moment } = useClock();
const making = ref(false);
const name = ref('');
const fault = ref('');
const field = ref<HTMLInputElement | null>(null);
const address = useAddress();
const sort = address.part('sort');
const withRetired = address.flag('deactivated');

const rows = computed(() =>
  (setUp.campaigns ?? []).filter((campaign) => !campaign.retired || withRetired.value),
);
const sentence = computed(() => {
  if (setUp.campaigns === null) return 'Reading the list.';
  const running = rows.value.filter((campaign) => campaign.status === 'running').length;
  const inAir = [...live.campaigns.values()].reduce((sum, campaign) => sum + campaign.inAir, 0);
  return rows.value.length === 0
    ? 'Nobody is called yet'
    : `${running} of ${rows.value.length} running, ${inAir} ${inAir === 1 ? 'call' : 'calls'} in the air`;
});

const columns = [
  { key: 'name', title: 'Name', sort: (row: Campaign) => row.name },
  { key: 'state', title: 'State', width: '112px', sort: (row: Campaign) => campaignWords[row.status] },
  { key: 'since', title: 'Since', width: '110px', mono: true },
  { key: 'queue', title: 'Answered calls to', width: '150px' },
  {
    key: 'contacts',
    title: 'Contacts',
    width: '84px',
    mono: true,
    right: true,
    sort: (row: Campaign) => row.contacts,
  },
  { key: 'inAir', title: 'In the air', width: '76px', mono: true, right: true },
  { key: 'abandoned', title: 'Abandoned', width: '92px', mono: true, right: true },
  { key: 'pace', title: 'Pace', width: '210px' },
];

async function add(): Promise<void> {
  if (!session.mayEdit) return;
  making.value = true;
  await nextTick();
  field.value?.focus();
}

async function make(): Promise<void> {
  fault.value = '';
  try {
    const campaign = await ask(api.POST('/api/campaigns', { body: { name: name.value } }));
    await setUp.load();
    if (staying()) await router.push(`/campaigns/${campaign.id}?tab=settings`);
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.detail : 'That did not work. Try again.';
  }
}

const open = (campaign: Campaign) => void router.push(`/campaigns/${campaign.id}`);
useKeys({ n: () => void add(), Escape: () => (making.value = false) });
</script>

<template>
  <PageHead title="Campaigns" :sentence="sentence">
    <SaveList v-if="rows.length > 0" list="campaigns" :asked="{ withRetired: withRetired ? 'true' : null }" />
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New campaign<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <form v-if="making" class="making" @submit.prevent="make">
    <input
      ref="field"
      v-model="name"
      aria-label="Name of the new campaign"
      placeholder="Name of the new campaign"
    />
    <button class="link" type="submit">Make it</button>
    <button class="link" type="button" @click="making = false">Leave it</button>
    <span :class="fault === '' ? 'second' : 'fault-text'" class="small">{{
      fault === ''
        ? 'Queue, trunk, caller ID and list come next. Nothing is dialled before you start it.'
        : fault
    }}</span>
  </form>
  <LedgerTable v-model:sort="sort" caption="Campaigns" :columns="columns" :rows="rows" @choose="open">
    <template #name="{ row }">
      <router-link class="plain" :to="`/campaigns/${row.id}`" @click.stop>{{ row.name }}</router-link>
      <span v-if="row.retired" class="second"> deactivated</span>
    </template>
    <template #state="{ row }"><StateWord :shape="row.status" :word="campaignWords[row.status]" /></template>
    <template #since="{ row }">{{ moment(row.since) }}</template>
    <template #queue="{ row }">{{ row.queueId ? setUp.nameOf(row.queueId) : '' }}</template>
    <template #contacts="{ row }">{{ row.contacts.toLocaleString('en') }}</template>
    <template #inAir="{ row }">{{ live.campaigns.get(row.id)?.inAir || '' }}</template>
    <template #abandoned="{ row }">
      {{ live.campaigns.get(row.id) ? `${(live.campaigns.get(row.id)!.rate * 100).toFixed(1)} %` : '' }}
    </template>
    <template #pace="{ row }">
      <span v-if="row.status === 'running' && live.campaigns.get(row.id)" class="second">{{
        paceWords(live.campaigns.get(row.id)!.pace)
      }}</span>
    </template>
    <template #empty>
      <EmptyLine
        v-if="setUp.campaigns !== null"
        text="No campaign yet. A campaign calls the people of a list while agents are free, and puts those who answer through to them."
      >
        <v-btn v-if="session.mayEdit" @click="add">New campaign</v-btn>
      </EmptyLine>
    </template>
  </LedgerTable>
</template>

<style scoped>
.making {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 8px 20px;
  background: var(--wash);
  border-bottom: 1px solid var(--rule);
}
.making input {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 26px;
  width: 280px;
}
</style>

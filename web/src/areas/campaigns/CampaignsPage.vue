<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { useRouter } from 'vue-router';
import type { CampaignView } from '@night-bell/core/contracts/campaigns';
import { paceWords } from '@night-bell/core/story/words';
import ItemPage from '../../kit/ItemPage.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import type { Column } from '../../kit/ledger.ts';
import StateWord from '../../kit/StateWord.vue';
import { useClock } from '../../kit/time.ts';
import { campaignWords } from '../../kit/words.ts';
import { useLive } from '../../shell/live.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { campaignArea } from './words.ts';

const setUp = useSetUp();
const live = useLive();
const router = useRouter();
const { moment } = useClock();
const area = campaignArea(setUp.nameOf);

function sentence(inUse: CampaignView[]): string {
  if (inUse.length === 0) return 'Nobody is called yet';
  const running = inUse.filter(({ status }) => status === 'running').length;
  const inAir = [...live.campaigns.values()].reduce((sum, campaign) => sum + campaign.inAir, 0);
  return `${running} of ${inUse.length} running, ${inAir} ${inAir === 1 ? 'call' : 'calls'} in the air`;
}

const columns: Column<CampaignView>[] = [
  { key: 'name', title: 'Name', sort: (row) => row.name },
  { key: 'state', title: 'State', width: '112px', sort: (row) => campaignWords[row.status] },
  { key: 'since', title: 'Since', width: '110px', mono: true, time: true },
  { key: 'queue', title: 'Answered calls to', width: '150px' },
  {
    key: 'contacts',
    title: 'Contacts',
    width: '84px',
    mono: true,
    right: true,
    sort: (row) => row.contacts,
  },
  { key: 'inAir', title: 'In the air', width: '76px', mono: true, right: true },
  { key: 'abandoned', title: 'Abandoned', width: '92px', mono: true, right: true },
  { key: 'pace', title: 'Pace', width: '210px' },
];

const open = ({ id }: CampaignView) => void router.push(`/campaigns/${id}`);
/** What it calls, over what and to whom comes next. */
const goOn = ({ id }: CampaignView) => void router.push(`/campaigns/${id}?tab=settings`);
</script>

<template>
  <ItemPage
    :area="area"
    :columns="columns"
    :sentence="sentence"
    :opens="open"
    empty="No campaign yet. A campaign calls the people of a list while agents are free, and puts those who answer through to them."
  >
    <template #cell-state="{ row }"
      ><StateWord :shape="row.status" :word="campaignWords[row.status]"
    /></template>
    <template #cell-since="{ row }">{{ moment(row.since) }}</template>
    <template #cell-queue="{ row }">{{ row.queueId ? setUp.nameOf(row.queueId) : '' }}</template>
    <template #cell-contacts="{ row }">{{ row.contacts.toLocaleString(locale) }}</template>
    <template #cell-inAir="{ row }">{{ live.campaigns.get(row.id)?.inAir || '' }}</template>
    <template #cell-abandoned="{ row }">
      {{ live.campaigns.get(row.id) ? `${(live.campaigns.get(row.id)!.rate * 100).toFixed(1)} %` : '' }}
    </template>
    <template #cell-pace="{ row }">
      <span v-if="row.status === 'running' && live.campaigns.get(row.id)" class="second">{{
        paceWords(live.campaigns.get(row.id)!.pace)
      }}</span>
    </template>
    <template #sheet="{ close }">
      <ItemSheet :area="area" :item="null" @close="close()" @made="goOn">
        <template #default>
          <p class="second">
            Queue, trunk, caller ID and list come next. Nothing is dialled before you start it.
          </p>
        </template>
      </ItemSheet>
    </template>
  </ItemPage>
</template>

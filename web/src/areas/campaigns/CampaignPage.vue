<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, ask } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import KeyCap from '../../kit/KeyCap.vue';
import PageHead from '../../kit/PageHead.vue';
import StateWord from '../../kit/StateWord.vue';
import { useClock } from '../../kit/time.ts';
import { campaignWords } from '../../kit/words.ts';
import { useKeys } from '../../shell/keys.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import CampaignContacts from './CampaignContacts.vue';
import CampaignProgress from './CampaignProgress.vue';
import CampaignSettings from './CampaignSettings.vue';
import { startWords } from './words.ts';

const props = defineProps<{ id: string }>();
const setUp = useSetUp();
const session = useSession();
const route = useRoute();
const router = useRouter();
const act = useActing();
const { moment } = useClock();

const campaign = computed(() => setUp.campaignById.get(props.id) ?? null);
const tabs = ['progress', 'contacts', 'settings'] as const;
const tab = computed({
  get: () => Math.max(0, tabs.indexOf((route.query.tab as (typeof tabs)[number] | undefined) ?? 'progress')),
  set: (index: number) => void router.replace({ query: index === 0 ? {} : { tab: tabs[index] } }),
});

const missing = computed(() => {
  const now = campaign.value;
  if (now === null || now.status === 'running' || now.status === 'finished') return '';
  const parts = [
    now.queueId === null ? ['a queue'] : [],
    now.trunkId === null ? ['a trunk'] : [],
    now.numberId === null ? ['a caller ID'] : [],
    now.contacts === 0 ? ['a contact list'] : [],
  ].flat();
  return parts.length === 0 ? '' : `It still needs ${parts.join(', ')}`;
});
const sentence = computed(() => {
  const now = campaign.value;
  if (now === null) return '';
  return `since ${moment(now.since)}, ${now.contacts.toLocaleString(locale.value)} contacts${missing.value === '' ? '' : `. ${missing.value}`}`;
});

function move(what: 'start' | 'pause' | 'finish', said: string): Promise<boolean> {
  const params = { path: { id: props.id } };
  return act(
    () => ask(api.POST(`/api/campaigns/{id}/${what}` as '/api/campaigns/{id}/start', { params })),
    said,
  );
}
function start(): Promise<boolean> {
  const now = campaign.value!;
  const said =
    now.status === 'draft'
      ? startWords(now, setUp.nameOf(now.queueId ?? ''))
      : `${now.name} goes on: it dials while agents are free.`;
  return move('start', said);
}
const pause = () => move('pause', `${campaign.value!.name} is paused. Calls that ring go on.`);
const finish = () => move('finish', `${campaign.value!.name} is finished.`);

useKeys({
  p: () => {
    if (!session.mayOperate || campaign.value === null) return;
    void (campaign.value.status === 'running' ? pause() : start());
  },
  Escape: () => void router.push('/campaigns'),
});
</script>

<template>
  <template v-if="campaign">
    <PageHead :title="campaign.name" :sentence="sentence">
      <template #state>
        <StateWord :shape="campaign.status" :word="campaignWords[campaign.status]" />
      </template>
      <template v-if="session.mayOperate">
        <v-btn v-if="campaign.status === 'running' || campaign.status === 'paused'" @click="finish"
          >Finish it</v-btn
        >
        <v-btn v-if="campaign.status === 'running'" variant="flat" color="primary" @click="pause"
          >Pause dialling<KeyCap>P</KeyCap></v-btn
        >
        <v-btn v-else variant="flat" color="primary" @click="start"
          >{{ campaign.status === 'draft' ? 'Start dialling' : 'Go on dialling' }}<KeyCap>P</KeyCap></v-btn
        >
      </template>
    </PageHead>
    <v-tabs v-model="tab" class="tabs" height="34">
      <v-tab :value="0" text="Progress" />
      <v-tab :value="1" text="Contacts" />
      <v-tab :value="2" text="Settings" />
    </v-tabs>
    <CampaignProgress v-if="tab === 0" :campaign="campaign" />
    <CampaignContacts v-else-if="tab === 1" :campaign="campaign" />
    <CampaignSettings v-else :key="campaign.id" :campaign="campaign" />
  </template>
  <p v-else-if="setUp.campaigns !== null" class="gone">
    There is no such campaign. <router-link to="/campaigns">All campaigns</router-link>
  </p>
</template>

<style scoped>
.tabs {
  padding: 0 14px;
  border-bottom: 1px solid var(--rule2);
  flex: none;
}
.tabs :deep(.v-btn) {
  border: 0;
  min-width: 0;
  padding: 0 10px;
  color: var(--ink2);
}
.tabs :deep(.v-tab--selected) {
  color: var(--ink);
}
.gone {
  padding: 24px 20px;
}
</style>

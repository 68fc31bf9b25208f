<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, type Campaign, ifMatch } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import FormEnd from '../../kit/FormEnd.vue';
import HistoryList from '../../kit/HistoryList.vue';
import LedgerField from '../../kit/LedgerField.vue';
import ThingField from '../../kit/ThingField.vue';
import OutcomesField from '../../kit/OutcomesField.vue';
import ScriptField from '../../kit/ScriptField.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { campaignFieldWords, showCampaign, timeOfDay, minutesOf } from './words.ts';

type Draft = Omit<
  Campaign,
  'id' | 'version' | 'retired' | 'status' | 'since' | 'callerId' | 'fields' | 'contacts'
>;

const props = defineProps<{ campaign: Campaign }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const act = useActing();
const fields = ref<string[]>([]);
const show = showCampaign(setUp.nameOf);

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    const params = { path: { id: props.campaign.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/campaigns/{id}', { params, body: value }));
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.campaign.id);
  });

function draftOf(campaign: Campaign): Draft {
  const {
    id: _id,
    version: _version,
    retired: _retired,
    status: _status,
    since: _since,
    callerId: _callerId,
    fields: _fields,
    contacts: _contacts,
    ...rest
  } = campaign;
  return rest;
}

watch(
  () => props.campaign,
  (campaign) => {
    if (!changed.value) begin(draftOf(campaign), campaign.version);
    void ask(api.GET('/api/campaigns/{id}/fields', { params: { path: { id: campaign.id } } }))
      .then((known) => (fields.value = known))
      .catch(() => undefined);
  },
  { immediate: true },
);

const queues = computed(() => (setUp.queues ?? []).filter((queue) => !queue.retired));
const trunks = computed(() => (setUp.trunks ?? []).filter((trunk) => !trunk.retired));
const seconds = ['/ratio', '/mostInAir', '/abandonPercent', '/ringSeconds', '/attempts', '/retryMinutes'];

const guarded = () => ({
  params: { path: { id: props.campaign.id }, header: ifMatch(props.campaign.version) },
});
const retire = () =>
  act(() => ask(api.POST('/api/campaigns/{id}/retire', guarded())), `${props.campaign.name} is deactivated.`);
const reactivate = () =>
  act(() => ask(api.POST('/api/campaigns/{id}/reactivate', guarded())), `${props.campaign.name} is back.`);
</script>

<template>
  <form v-if="draft" class="columns" @submit.prevent="save">
    <div class="column">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="campaignFieldWords"
        :show="show"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <section>
        <LedgerField label="Name" for="campaign-name" :fault="faults['/name']">
          <v-text-field
            id="campaign-name"
            v-model="draft.name"
            :readonly="!session.mayEdit"
            autocomplete="off"
          />
        </LedgerField>
        <LedgerField
          label="Answered to"
          for="campaign-queue"
          :fault="faults['/queueId']"
          hint="Its agents take the calls, chosen as that queue chooses."
        >
          <v-autocomplete
            id="campaign-queue"
            v-model="draft.queueId"
            :items="queues"
            item-value="id"
            item-title="name"
            placeholder="Choose a queue"
            :readonly="!session.mayEdit"
            auto-select-first
          />
        </LedgerField>
        <LedgerField label="Dials over" for="campaign-trunk" :fault="faults['/trunkId']">
          <v-select
            id="campaign-trunk"
            v-model="draft.trunkId"
            :items="trunks"
            item-value="id"
            item-title="name"
            placeholder="Choose a trunk"
            :readonly="!session.mayEdit"
          />
        </LedgerField>
        <LedgerField
          label="Shown as"
          for="campaign-number"
          :fault="faults['/numberId']"
          hint="Only numbers held here can be shown. People rarely lift for an unknown one."
        >
          <ThingField
            id="campaign-number"
            v-model="draft.numberId"
            label="Number shown"
            :kinds="['number']"
            placeholder="Choose one of our numbers"
            :readonly="!session.mayEdit"
          />
        </LedgerField>
      </section>
      <section>
        <h2>Pace</h2>
        <p class="settings">
          Keep
          <input
            v-model.number="draft.ratio"
            type="number"
            step="0.1"
            aria-label="Calls for each free agent"
            :readonly="!session.mayEdit"
          />
          calls in the air for each free agent, at most
          <input
            :value="draft.mostInAir ?? ''"
            type="number"
            placeholder="any"
            aria-label="Calls in the air at most"
            :readonly="!session.mayEdit"
            @input="
              draft.mostInAir =
                ($event.target as HTMLInputElement).value === ''
                  ? null
                  : Number(($event.target as HTMLInputElement).value)
            "
          />
          at once. At
          <input
            v-model.number="draft.abandonPercent"
            type="number"
            step="0.1"
            aria-label="Abandon limit in percent"
            :readonly="!session.mayEdit"
          />
          % abandoned it slows down to one call for each agent, who is kept for it.
        </p>
        <p class="settings">
          Let it ring
          <input
            v-model.number="draft.ringSeconds"
            type="number"
            aria-label="Seconds it rings"
            :readonly="!session.mayEdit"
          />
          s. Try each contact
          <input
            v-model.number="draft.attempts"
            type="number"
            aria-label="Attempts"
            :readonly="!session.mayEdit"
          />
          times,
          <input
            v-model.number="draft.retryMinutes"
            type="number"
            aria-label="Minutes between attempts"
            :readonly="!session.mayEdit"
            class="wide"
          />
          minutes apart, between
          <input
            :value="timeOfDay(draft.hoursFrom)"
            type="text"
            placeholder="8:00"
            aria-label="Calling hours begin"
            :readonly="!session.mayEdit"
            class="time"
            @change="draft.hoursFrom = minutesOf(($event.target as HTMLInputElement).value)"
          />
          and
          <input
            :value="timeOfDay(draft.hoursTo)"
            type="text"
            placeholder="8:00"
            aria-label="Calling hours end"
            :readonly="!session.mayEdit"
            class="time"
            @change="draft.hoursTo = minutesOf(($event.target as HTMLInputElement).value)"
          />
          at the contact's own clock.
        </p>
        <p v-for="field in [...seconds, '/hoursFrom', '/hoursTo']" :key="field" class="fault-text">
          {{ faults[field] }}
        </p>
      </section>
      <section>
        <h2>When nobody is free in time</h2>
        <LedgerField label="They hear" for="campaign-message" :fault="faults['/message']">
          <textarea
            id="campaign-message"
            v-model="draft.message"
            rows="3"
            :readonly="!session.mayEdit"
          ></textarea>
        </LedgerField>
        <LedgerField
          label="Opt-out key"
          for="campaign-key"
          :fault="faults['/optOutKey']"
          hint="Whoever presses it is never called again, by any campaign."
        >
          <v-text-field
            id="campaign-key"
            class="mono"
            :model-value="draft.optOutKey ?? ''"
            maxlength="1"
            placeholder="none"
            :readonly="!session.mayEdit"
            @update:model-value="draft.optOutKey = $event === '' ? null : $event"
          />
        </LedgerField>
      </section>
    </div>
    <div class="column sheet">
      <section>
        <h2>What the agent reads</h2>
        <ScriptField
          id="campaign-script"
          v-model="draft.script"
          :readonly="!session.mayEdit"
          :fault="faults['/script']"
          :fields="fields"
        />
      </section>
      <section>
        <h2>How a call may end</h2>
        <OutcomesField v-model="draft.outcomes" :readonly="!session.mayEdit" :faults="faults" />
        <FormEnd
          :general="general"
          :saving="saving"
          :changed="changed"
          @leave="begin(draftOf(campaign), campaign.version)"
        />
      </section>
      <section v-if="session.mayEdit">
        <v-btn v-if="!campaign.retired" @click="retire">Deactivate</v-btn>
        <v-btn v-else @click="reactivate">Reactivate</v-btn>
      </section>
      <h2 class="history">History</h2>
      <HistoryList :item-id="campaign.id" :words="campaignFieldWords" :show="show" class="padded" />
    </div>
  </form>
</template>

<style scoped>
.columns {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.column {
  overflow: auto;
}
.sheet {
  background: var(--sheet);
  border-left: 1px solid var(--rule2);
}
section {
  padding: 14px 20px;
  border-bottom: 1px solid var(--rule);
}
h2 {
  padding-bottom: 8px;
}
.history {
  padding: 14px 20px 0;
}
.padded {
  border: 0;
}
.settings {
  line-height: 28px;
}
.settings input {
  width: 48px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  padding: 0 2px;
  font: 12px/18px var(--mono);
  height: 22px;
}
.settings .wide {
  width: 58px;
}
.settings .time {
  width: 46px;
}
textarea {
  width: 100%;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: inherit;
  padding: 5px 8px;
  font: 13px/18px var(--sans);
  resize: vertical;
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 10px;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: 1fr;
    overflow: auto;
  }
}
</style>

<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { CampaignView } from '@night-bell/core/contracts/campaigns';
import { api, ask } from '../../api/client.ts';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import ConflictNote from '../../kit/ConflictNote.vue';
import FormEnd from '../../kit/FormEnd.vue';
import FormLine from '../../kit/FormLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import HistoryList from '../../kit/HistoryList.vue';
import { useItemForm } from '../../kit/item-form.ts';
import OutcomesField from '../../kit/OutcomesField.vue';
import ScriptField from '../../kit/ScriptField.vue';
import SentenceField from '../../kit/SentenceField.vue';
import TextLine from '../../kit/TextLine.vue';
import ThingField from '../../kit/ThingField.vue';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { campaignArea, minutesOf, timeOfDay } from './words.ts';

/** A campaign's settings, on a page: they are more than a sheet holds. */
const props = defineProps<{ campaign: CampaignView }>();
const setUp = useSetUp();
const session = useSession();
const fields = ref<string[]>([]);
const area = campaignArea(setUp.nameOf);
const { draft, general, saving, changed, conflict, ...form } = useItemForm(
  () => area,
  () => props.campaign,
);

watch(
  () => props.campaign,
  async ({ id }) => {
    fields.value = await ask(api.GET('/api/campaigns/{id}/fields', { params: { path: { id } } })).catch(
      () => fields.value,
    );
  },
  { immediate: true },
);

const inUse = (items: readonly { id: string; name: string; retired: boolean }[] | null) =>
  (items ?? []).filter(({ retired }) => !retired).map(({ id, name }) => ({ value: id, title: name }));
const queues = computed(() => inUse(setUp.queues));
const trunks = computed(() => inUse(setUp.trunks));
const paceFields = ['ratio', 'mostInAir', 'abandonPercent'];
const tryFields = ['ringSeconds', 'attempts', 'retryMinutes', 'hoursFrom', 'hoursTo'];
</script>

<template>
  <form v-if="draft" class="columns" @submit.prevent="form.save">
    <div class="column">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="area.words as Record<string, string>"
        :show="area.show"
        @mine="form.keepMine"
        @theirs="form.takeTheirs"
      />
      <section>
        <TextLine v-model="draft.name" field="name" label="Name" />
        <ChoiceLine
          v-model="draft.queueId"
          field="queueId"
          label="Answered to"
          found
          :items="queues"
          placeholder="Choose a queue"
          hint="Its agents take the calls, chosen as that queue chooses."
        />
        <ChoiceLine
          v-model="draft.trunkId"
          field="trunkId"
          label="Dials over"
          :items="trunks"
          placeholder="Choose a trunk"
        />
        <FormLine
          v-slot="{ id, readonly }"
          field="numberId"
          label="Shown as"
          hint="Only numbers held here can be shown. People rarely lift for an unknown one."
        >
          <ThingField
            :id="id"
            v-model="draft.numberId"
            label="Number shown"
            :kinds="['number']"
            placeholder="Choose one of our numbers"
            :readonly="readonly"
          />
        </FormLine>
      </section>
      <section>
        <h2>Pace</h2>
        <FormSentence :fields="paceFields">
          Keep
          <SentenceField v-model="draft.ratio" field="ratio" label="Calls for each free agent" />
          calls in the air for each free agent, at most
          <SentenceField v-model="draft.mostInAir" field="mostInAir" label="Calls in the air at most" any />
          at once. At
          <SentenceField
            v-model="draft.abandonPercent"
            field="abandonPercent"
            label="Abandon limit in percent"
          />
          % abandoned it slows down to one call for each agent, who is kept for it.
        </FormSentence>
        <FormSentence :fields="tryFields">
          Let it ring
          <SentenceField v-model="draft.ringSeconds" field="ringSeconds" label="Seconds it rings" />
          s. Try each contact
          <SentenceField v-model="draft.attempts" field="attempts" label="Attempts" />
          times,
          <SentenceField
            v-model="draft.retryMinutes"
            field="retryMinutes"
            label="Minutes between attempts"
            :size="5"
          />
          minutes apart, between
          <SentenceField
            :model-value="timeOfDay(draft.hoursFrom)"
            field="hoursFrom"
            label="Calling hours begin"
            words
            late
            :size="5"
            @update:model-value="draft.hoursFrom = minutesOf(String($event))"
          />
          and
          <SentenceField
            :model-value="timeOfDay(draft.hoursTo)"
            field="hoursTo"
            label="Calling hours end"
            words
            late
            :size="5"
            @update:model-value="draft.hoursTo = minutesOf(String($event))"
          />
          at the contact's own clock.
        </FormSentence>
      </section>
      <section>
        <h2>When nobody is free in time</h2>
        <FormLine v-slot="{ id, readonly }" field="message" label="They hear">
          <textarea :id="id" v-model="draft.message" rows="3" :readonly="readonly"></textarea>
        </FormLine>
        <TextLine
          v-model="draft.optOutKey"
          field="optOutKey"
          label="Opt-out key"
          mono
          :maxlength="1"
          placeholder="none"
          emptied="null"
          hint="Whoever presses it is never called again, by any campaign."
        />
      </section>
    </div>
    <div class="column sheet">
      <section>
        <h2>What the agent reads</h2>
        <ScriptField v-model="draft.script" :fields="fields" />
      </section>
      <section>
        <h2>How a call may end</h2>
        <OutcomesField v-model="draft.outcomes" />
        <FormEnd :general="general" :saving="saving" :changed="changed" @leave="form.leave" />
      </section>
      <section v-if="session.mayEdit">
        <v-btn v-if="!campaign.retired" @click="form.retire(campaign)">Deactivate</v-btn>
        <v-btn v-else @click="form.reactivate(campaign)">Reactivate</v-btn>
      </section>
      <h2 class="history">History</h2>
      <HistoryList
        :key="campaign.version"
        :item-id="campaign.id"
        :words="area.words as Record<string, string>"
        :show="area.show"
        class="padded"
        @taken-back="form.readAgain(campaign.id)"
      />
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

<script setup lang="ts">
import { computed } from 'vue';
import { ringsAgainAfterSeconds } from '@night-bell/core/model/distribution';
import type { QueueView } from '@night-bell/core/contracts/queues';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import FlagLine from '../../kit/FlagLine.vue';
import FormLine from '../../kit/FormLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import ExtensionLine from '../../kit/ExtensionLine.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import MembersField from '../../kit/MembersField.vue';
import OutcomesField from '../../kit/OutcomesField.vue';
import ScriptField from '../../kit/ScriptField.vue';
import SentenceField from '../../kit/SentenceField.vue';
import SkillsField from '../../kit/SkillsField.vue';
import ThingField from '../../kit/ThingField.vue';
import { useCollection } from '../../shell/collection.ts';
import { useLive } from '../../shell/live.ts';
import { useSetUp } from '../../shell/set-up.ts';
import CallTimes from '../calls/CallTimes.vue';
import { hoursApi } from '../hours/words.ts';
import OneWait from './OneWait.vue';
import QueueCallBack from './QueueCallBack.vue';
import QueueMayRing from './QueueMayRing.vue';
import QueueOrder from './QueueOrder.vue';
import QueueSounds from './QueueSounds.vue';
import QueueWaysOut from './QueueWaysOut.vue';
import { distributionChoices, pauseChoices, queueArea, recordingChoices } from './words.ts';

/** Who is rung, how long, and where callers go that nobody takes. */
const props = defineProps<{ item: QueueView | null }>();
const emit = defineEmits<{ close: []; made: [item: QueueView] }>();
const setUp = useSetUp();
const live = useLive();
const sets = useCollection(hoursApi);
const area = queueArea((id) => sets.byId.value.get(id)?.name ?? setUp.nameOf(id));
const now = computed(() => (props.item === null ? undefined : live.queues.get(props.item.id)));
const hoursChoices = computed(() => [
  { value: null, title: 'always open' },
  ...(sets.items.value ?? [])
    .filter(({ retired, id }) => !retired || id === props.item?.hoursId)
    .map(({ id, name }) => ({ value: id, title: name })),
]);
</script>

<template>
  <ItemSheet :area="area" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template v-if="now" #state>
      <b class="mono">{{ now.waiting + now.offering }}</b> waiting
      <p class="small second">{{ now.signedIn }} signed in, {{ now.idle }} free</p>
    </template>
    <template #default="{ draft }">
      <ExtensionLine v-model="draft.extension" />
    </template>
    <template #sections="{ draft }">
      <section>
        <h3>Who is rung</h3>
        <ChoiceLine
          v-model="draft.distribution"
          field="distribution"
          label="Rings"
          :items="distributionChoices"
        />
        <router-link v-if="item" :to="`/queues/${item.id}/compare`" class="small compare"
          >Compare the ways to ring on the same hour</router-link
        >
        <p v-if="draft.distribution === 'bestSkill' && draft.skills.length === 0" class="second small">
          Name the skill to compare under “Asks for”.
        </p>
        <FormSentence v-if="draft.distribution === 'allAtOnce'" :fields="['ringsAtMost']">
          At most
          <SentenceField
            v-model="draft.ringsAtMost"
            field="ringsAtMost"
            label="Phones that ring together"
            :size="2"
          />
          ring together, those idle longest. Who lifts first has the call. Nobody rests for one that nobody
          took: it rings them again after {{ ringsAgainAfterSeconds }} s.
        </FormSentence>
        <h3 class="more">Members</h3>
        <MembersField
          v-model="draft.members"
          v-model:turns="draft.turns"
          v-model:joins="draft.joins"
          field="members"
          empty="Nobody yet. Callers would wait for nobody."
        />
        <h3 class="more">Asks for</h3>
        <SkillsField v-model="draft.skills" figure="minimum" none="No skill: every member is rung." />
      </section>
      <section>
        <FormSentence :fields="['ringSeconds', 'wrapUpSeconds', 'goalPercent', 'goalSeconds']">
          {{ draft.distribution === 'allAtOnce' ? 'Ring for' : 'Ring each for' }}
          <SentenceField v-model="draft.ringSeconds" field="ringSeconds" label="Seconds each is rung" />
          s{{ draft.distribution === 'allAtOnce' ? '' : ', then the next' }}. After a call
          <SentenceField v-model="draft.wrapUpSeconds" field="wrapUpSeconds" label="Seconds of wrap-up" />
          s of wrap-up. Aimed at:
          <SentenceField
            v-model="draft.goalPercent"
            field="goalPercent"
            label="Of a hundred callers, how many are to be answered in time"
            :size="3"
          />
          % answered within
          <SentenceField
            v-model="draft.goalSeconds"
            field="goalSeconds"
            label="Seconds that are in time"
            :size="3"
          />
          s.
        </FormSentence>
      </section>
      <section>
        <FlagLine
          v-model="draft.preferOwner"
          label="Who looks after the caller's record is rung first, when free"
        />
      </section>
      <QueueOrder :model-value="draft" />
      <QueueSounds :model-value="draft" />
      <QueueCallBack :model-value="draft" />
      <QueueWaysOut :model-value="draft" :item="item" :hours="hoursChoices" />
      <OneWait :draft="draft" />
      <QueueMayRing :model-value="draft" />
      <section>
        <h3>Recording</h3>
        <ChoiceLine v-model="draft.recording" field="recording" label="Talks are" :items="recordingChoices" />
        <template v-if="draft.recording === 'always'">
          <FormLine
            v-slot="{ id, readonly }"
            field="recordingNoticeId"
            label="Notice"
            hint="Callers hear it before they wait. A caller who did not is not recorded."
          >
            <ThingField
              :id="id"
              v-model="draft.recordingNoticeId"
              label="Notice"
              :kinds="['prompt']"
              :readonly="readonly"
              placeholder="Choose a prompt"
            />
          </FormLine>
          <ChoiceLine v-model="draft.mayPause" field="mayPause" label="May pause" :items="pauseChoices" />
        </template>
      </section>
      <section>
        <h3>What the agent reads</h3>
        <ScriptField v-model="draft.script" />
        <h3 class="more">How a call may end</h3>
        <OutcomesField v-model="draft.outcomes" />
      </section>
    </template>
    <template #tab-times="{ item: shown }"
      ><CallTimes :queue-id="shown.id" :goal="{ percent: shown.goalPercent, seconds: shown.goalSeconds }"
    /></template>
  </ItemSheet>
</template>

<style scoped>
.compare {
  display: inline-block;
  line-height: 24px;
}
.more {
  margin-top: 12px;
}
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
</style>

<script setup lang="ts">
import { computed } from 'vue';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import { commonLanguages, languageName } from '@night-bell/core/model/languages';
import { spokenSeconds } from '@night-bell/core/plan/spoken';
import ItemSheet from '../../kit/ItemSheet.vue';
import { listed } from '../../kit/listed.ts';
import LedgerField from '../../kit/LedgerField.vue';
import ThingField from '../../kit/ThingField.vue';
import SoundPlayer from '../../kit/SoundPlayer.vue';
import StatePennant from '../../kit/StatePennant.vue';
import { useClock } from '../../kit/time.ts';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import PromptLanguages from './PromptLanguages.vue';
import PromptSound from './PromptSound.vue';
import { promptApi, promptArea, promptKindWords, promptState, speakPrompt } from './words.ts';

/** One prompt: its words, and what of them callers hear. */
const props = defineProps<{ item: PromptView | null }>();
const emit = defineEmits<{ close: []; made: [item: PromptView] }>();
const { put } = useCollection(promptApi);
const session = useSession();
const notices = useNotices();
const { moment } = useClock();
/** One that is set stays to be chosen, also where it is uncommon. */
const languagesWith = (set: string) =>
  [
    ...(commonLanguages.some(({ code }) => code === set) ? [] : [{ code: set, name: languageName(set) }]),
    ...commonLanguages,
  ].map(({ code, name }) => ({ value: code, title: name }));
const kinds = Object.entries(promptKindWords).map(([value, title]) => ({ value, title }));
const state = computed(() => (props.item === null ? null : promptState(props.item)));
const about = (words: string) => {
  const seconds = spokenSeconds(words);
  return seconds === 0 ? 'Nothing to be heard yet.' : `About ${seconds} s to hear, at 150 words a minute.`;
};

/** One that has words and no sound is spoken first: one press less. */
async function publish({ id, version: seen, name, sound, translationOf }: PromptView): Promise<void> {
  try {
    const version = sound === null ? (await speakPrompt(id)).version : seen;
    put(await promptApi.publish(id, version));
    // Plans name what it is a translation of.
    const { usedBy } = await promptApi.read(translationOf ?? id);
    const where = usedBy.length === 0 ? '' : `, in ${listed(usedBy.map((each) => each.name))}`;
    notices.say(`Callers hear ${name} as it is written now${where}.`);
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <ItemSheet :area="promptArea" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template #state><StatePennant v-if="state" :state="state" /></template>
    <template #default="{ draft, faults, readonly }">
      <LedgerField label="Kind" for="prompt-kind" :fault="faults['/kind']">
        <v-select id="prompt-kind" v-model="draft.kind" :items="kinds" :readonly="readonly" />
      </LedgerField>
      <LedgerField label="Language" for="prompt-language" :fault="faults['/language']">
        <v-autocomplete
          id="prompt-language"
          v-model="draft.language"
          :items="languagesWith(draft.language)"
          :readonly="readonly"
        />
      </LedgerField>
      <LedgerField label="Belongs to" for="prompt-person" :fault="faults['/personId']">
        <ThingField
          id="prompt-person"
          v-model="draft.personId"
          label="Belongs to"
          :kinds="['person']"
          none="the company"
          :readonly="readonly"
        />
      </LedgerField>
      <LedgerField label="Words" for="prompt-words" :fault="faults['/words']" :hint="about(draft.words)">
        <v-textarea id="prompt-words" v-model="draft.words" :readonly="readonly" rows="4" auto-grow />
      </LedgerField>
    </template>
    <template #beside="{ item: shown, changed }">
      <PromptSound :item="shown" :changed="changed" />
      <section v-if="state !== 'published'">
        <h3>{{ state === 'draft' ? 'Nobody has heard it yet' : 'Callers still hear' }}</h3>
        <p v-if="shown.publishedWords !== null">{{ shown.publishedWords }}</p>
        <SoundPlayer
          v-if="shown.heard && shown.heard.id !== shown.sound?.id"
          :src="`/api/sounds/${shown.heard.id}`"
          :peaks="shown.heard.peaks"
          :seconds="shown.heard.seconds"
          label="what callers hear"
        />
        <p v-if="shown.publishedAt !== null" class="small second">Since {{ moment(shown.publishedAt) }}</p>
        <div v-if="session.mayEdit && !shown.retired" class="buttons">
          <v-btn variant="flat" color="primary" :disabled="changed" @click="publish(shown)">{{
            shown.sound === null ? 'Speak and publish' : 'Publish'
          }}</v-btn>
          <span v-if="changed" class="second small">Save first.</span>
        </div>
      </section>
      <section v-else-if="shown.publishedAt !== null">
        <p class="small second">Heard as it is written, since {{ moment(shown.publishedAt) }}.</p>
      </section>
      <PromptLanguages :item="shown" />
    </template>
  </ItemSheet>
</template>

<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import { commonLanguages, languageName } from '@night-bell/core/model/languages';
import { sentenceOf } from '../../api/client.ts';
import Shape from '../../kit/Shape.vue';
import SoundPlayer from '../../kit/SoundPlayer.vue';
import StatePennant from '../../kit/StatePennant.vue';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { promptApi, promptState, speakPrompt, translationsOf } from './words.ts';

/** The same prompt in other languages, for callers who chose one; another is written beside what there is. */
const props = defineProps<{ item: PromptView }>();
const { items, byId, put } = useCollection(promptApi);
const session = useSession();
const notices = useNotices();
const original = computed(() => byId.value.get(props.item.translationOf ?? '') ?? null);
const others = computed(() => translationsOf(items.value ?? [], props.item.id));
const free = computed(() => {
  const taken = new Set([props.item.language, ...others.value.map(({ language }) => language)]);
  return commonLanguages.filter(({ code }) => !taken.has(code));
});

const language = ref('');
const words = ref('');
const fault = ref('');
const working = ref(false);

/** Spoken at once where there is a voice; it is heard once it is published, as any other. */
async function add(): Promise<void> {
  const { name, kind, personId, id } = props.item;
  fault.value = '';
  working.value = true;
  try {
    const made = await promptApi.create({
      ...{ kind, personId, language: language.value, words: words.value, translationOf: id },
      name: `${name}, ${languageName(language.value)}`,
    });
    put(made);
    notices.say(`${made.name} is made. Listen to it, then publish.`);
    [language.value, words.value] = ['', ''];
    await speakPrompt(made.id).then(put, (error: unknown) => (fault.value = sentenceOf(error)));
  } catch (error) {
    fault.value = sentenceOf(error);
  } finally {
    working.value = false;
  }
}
</script>

<template>
  <section v-if="original">
    <h3>Instead of</h3>
    <p>
      <router-link :to="`/prompts/${original.id}`">{{ original.name }}</router-link>
      <span class="second">
        is heard in {{ languageName(item.language) }} by callers who chose that. Plans name only
        {{ original.name }}.</span
      >
    </p>
    <p class="other">{{ original.words }}</p>
  </section>
  <section v-else>
    <h3>In other languages</h3>
    <p v-if="others.length === 0" class="small second">
      None. Callers who choose a language by a key hear this in {{ languageName(item.language) }}.
    </p>
    <div v-for="each in others" :key="each.id" class="translation">
      <p class="head">
        <router-link :to="`/prompts/${each.id}`">{{ languageName(each.language) }}</router-link>
        <StatePennant :state="promptState(each)" />
      </p>
      <p class="other" :lang="each.language">{{ each.words || 'No words yet' }}</p>
      <SoundPlayer
        v-if="each.sound"
        :src="`/api/sounds/${each.sound.id}`"
        :peaks="each.sound.peaks"
        :seconds="each.sound.seconds"
        :label="each.name"
      />
    </div>
    <form v-if="session.mayEdit && !item.retired" @submit.prevent="add">
      <select v-model="language" aria-label="Another language">
        <option value="">Write it in another language</option>
        <option v-for="{ code, name } in free" :key="code" :value="code">{{ name }}</option>
      </select>
      <template v-if="language !== ''">
        <v-textarea
          v-model="words"
          :aria-label="`Words in ${languageName(language)}`"
          :placeholder="`“${item.words}”, in ${languageName(language)}`"
          :lang="language"
          rows="3"
          auto-grow
        />
        <div class="buttons">
          <v-btn type="submit" :loading="working" :disabled="words.trim() === ''">Make and speak it</v-btn>
          <v-btn @click="language = ''">Leave it</v-btn>
        </div>
      </template>
      <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
    </form>
  </section>
</template>

<style scoped>
.translation {
  padding: 4px 0 8px;
}
.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
.other {
  color: var(--ink2);
}
select {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 28px;
}
</style>

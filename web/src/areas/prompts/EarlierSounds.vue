<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { EarlierSound, PromptView } from '@night-bell/core/contracts/prompts';
import { send } from '../../api/items.ts';
import SoundPlayer from '../../kit/SoundPlayer.vue';
import { useClock } from '../../kit/time.ts';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { originWords, promptApi } from './words.ts';

/** What a prompt sounded like before: listened to, and taken again with the words it had. */
const props = defineProps<{ item: PromptView; changed: boolean }>();
const { put } = useCollection(promptApi);
const session = useSession();
const notices = useNotices();
const { moment } = useClock();
const sounds = ref<EarlierSound[]>([]);
const earlier = computed(() =>
  sounds.value.filter(({ id }) => id !== props.item.sound?.id && id !== props.item.heard?.id),
);

watch(
  () => [props.item.id, props.item.sound?.id],
  async () => {
    sounds.value = await send<EarlierSound[]>('GET', `/api/prompts/${props.item.id}/sounds`).catch(() => []);
  },
  { immediate: true },
);

async function take(sound: EarlierSound): Promise<void> {
  try {
    put(
      await send<PromptView>('POST', `/api/prompts/${props.item.id}/sounds/${sound.id}/take`, {
        version: props.item.version,
      }),
    );
    notices.say(
      `${props.item.name} says again what it said ${moment(sound.at)}. Publish to have callers hear it.`,
    );
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <details v-if="earlier.length > 0">
    <summary class="second">
      {{ earlier.length === 1 ? '1 earlier sound' : `${earlier.length} earlier sounds` }}
    </summary>
    <div v-for="sound in earlier" :key="sound.id" class="earlier">
      <p class="small">
        <span class="second">{{ moment(sound.at) }}, {{ originWords[sound.origin].toLowerCase() }}.</span>
        {{ sound.words }}
      </p>
      <SoundPlayer
        :src="`/api/sounds/${sound.id}`"
        :peaks="sound.peaks"
        :seconds="sound.seconds"
        :label="`the sound of ${moment(sound.at)}`"
      />
      <v-btn v-if="session.mayEdit && !item.retired" size="small" :disabled="changed" @click="take(sound)"
        >Take it again</v-btn
      >
    </div>
  </details>
</template>

<style scoped>
details {
  padding-top: 10px;
}
summary {
  cursor: pointer;
}
.earlier {
  padding: 8px 0;
  border-bottom: 1px solid var(--rule);
}
</style>

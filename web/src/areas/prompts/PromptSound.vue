<script setup lang="ts">
import { ref } from 'vue';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import { mostSoundBytes } from '@night-bell/core/sound/limits';
import { ApiProblem } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import Shape from '../../kit/Shape.vue';
import SoundPlayer from '../../kit/SoundPlayer.vue';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { promptApi, speakPrompt } from './words.ts';

/** The sound of a prompt: spoken from its words, or brought as a file; listened to before anybody else hears it. */
const props = defineProps<{ item: PromptView; changed: boolean }>();
const { put } = useCollection(promptApi);
const session = useSession();
const notices = useNotices();
const working = ref<'speak' | 'bring' | null>(null);
const fault = ref('');
const file = ref<HTMLInputElement | null>(null);

async function make(verb: 'speak' | 'sound', body: object, said: string): Promise<void> {
  working.value = verb === 'speak' ? 'speak' : 'bring';
  fault.value = '';
  try {
    put(
      verb === 'speak'
        ? await speakPrompt(props.item.id)
        : await send<PromptView>('POST', `/api/prompts/${props.item.id}/sound`, { body }),
    );
    notices.say(said);
  } catch (error) {
    fault.value =
      error instanceof ApiProblem
        ? (Object.values(error.faults)[0] ?? error.detail)
        : 'That did not work. Try again.';
  } finally {
    working.value = null;
  }
}
const speak = () => make('speak', {}, `${props.item.name} is spoken. Listen to it, then publish.`);

async function bring(brought: File | undefined): Promise<void> {
  if (brought === undefined) return;
  if (brought.size > mostSoundBytes) {
    fault.value = 'A file of at most 4 MB. Save it with fewer samples a second, or cut it.';
    return;
  }
  const bytes = new Uint8Array(await brought.arrayBuffer());
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000)
    text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  await make(
    'sound',
    { file: btoa(text) },
    `${brought.name} is the sound of ${props.item.name} once you publish.`,
  );
  if (file.value !== null) file.value.value = '';
}
function drop(event: DragEvent): void {
  void bring(event.dataTransfer?.files[0]);
}
</script>

<template>
  <section class="sound" @dragover.prevent @drop.prevent="drop">
    <h3>Sound</h3>
    <template v-if="item.sound">
      <SoundPlayer
        :src="`/api/sounds/${item.sound.id}`"
        :peaks="item.sound.peaks"
        :seconds="item.sound.seconds"
        :label="item.name"
      />
      <p class="small second">
        {{ item.sound.origin === 'spoken' ? 'Spoken' : 'Brought'
        }}{{ item.sound.loudness === null ? '' : `, ${item.sound.loudness.toFixed(0)} dBFS` }}
      </p>
      <p v-if="!item.sound.current" class="fault-text">
        <Shape name="fault" /> It says other words than are written.
      </p>
      <p v-if="item.sound.clipping" class="fault-text">
        <Shape name="fault" /> Too loud: it is cut off in places. Record it again, softer.
      </p>
    </template>
    <p v-else class="second small">
      None yet. Callers hear nothing of these words but a pause as long as they take.
    </p>
    <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
    <div v-if="session.mayEdit && !item.retired" class="buttons">
      <v-btn :loading="working === 'speak'" :disabled="changed || item.words.trim() === ''" @click="speak"
        >Speak</v-btn
      >
      <v-btn :loading="working === 'bring'" :disabled="changed" @click="file?.click()"
        >Bring a WAV file</v-btn
      >
      <input
        ref="file"
        type="file"
        accept=".wav,audio/wav"
        class="hidden"
        aria-label="A WAV file"
        @change="bring(($event.target as HTMLInputElement).files?.[0])"
      />
      <span v-if="changed" class="second small">Save the words first.</span>
    </div>
  </section>
</template>

<style scoped>
.hidden {
  display: none;
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue';
import { defaultSounds } from '@night-bell/core/sound/defaults';
import { span } from '@night-bell/core/story/span';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import { mostSoundBytes } from '@night-bell/core/sound/limits';
import { sentenceOf } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import Shape from '../../kit/Shape.vue';
import SoundPlayer from '../../kit/SoundPlayer.vue';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useRecording } from './recording.ts';
import EarlierSounds from './EarlierSounds.vue';
import { originWords, promptApi, speakPrompt } from './words.ts';

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
    fault.value = sentenceOf(error);
  } finally {
    working.value = null;
  }
}
const defaultWords = computed(() => {
  const { words } = defaultSounds[props.item.kind];
  return words === null ? ', a tone' : `: “${words}”`;
});
const speak = () => make('speak', {}, `${props.item.name} is spoken. Listen to it, then publish.`);

async function bring(brought: File | undefined): Promise<void> {
  if (brought === undefined) return;
  if (brought.size > mostSoundBytes) {
    fault.value = 'A file of at most 4 MB. Save it with fewer samples a second, or cut it.';
    return;
  }
  await sendSound(
    new Uint8Array(await brought.arrayBuffer()),
    false,
    `${brought.name} is the sound of ${props.item.name} once you publish.`,
  );
  if (file.value !== null) file.value.value = '';
}

async function sendSound(bytes: Uint8Array, recorded: boolean, said: string): Promise<void> {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000)
    text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  await make('sound', { file: btoa(text), recorded }, said);
}

const {
  recording,
  levels,
  seconds,
  fault: recordingFault,
  start,
  stop,
} = useRecording((wav) => {
  void sendSound(wav, true, `${props.item.name} is recorded. Listen to it, then publish.`);
});
const levelPath = computed(() =>
  levels.value.map((level, i) => `M${i * 3 + 1} 44v-${Math.max(1, level * 0.42)}`).join(''),
);
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
        {{ originWords[item.sound.origin]
        }}{{ item.sound.loudness === null ? '' : `, ${item.sound.loudness.toFixed(0)} dBFS` }}
      </p>
      <p v-if="!item.sound.current" class="fault-text">
        <Shape name="fault" /> It says other words than are written.
      </p>
      <p v-if="item.sound.clipping" class="fault-text">
        <Shape name="fault" /> Too loud: it is cut off in places. Record it again, softer.
      </p>
    </template>
    <p v-else class="second small">None yet. Callers hear the default of its kind{{ defaultWords }}.</p>
    <SoundPlayer
      v-if="!item.sound"
      :key="item.kind"
      :src="`/api/default-sounds/${item.kind}`"
      :peaks="[]"
      :seconds="defaultSounds[item.kind].seconds"
      label="the default"
    />
    <div v-if="recording" class="level">
      <svg width="600" height="46" aria-hidden="true"><path :d="levelPath" class="bars" /></svg>
      <span class="mono second" role="status">{{ span(seconds * 1000) }}</span>
    </div>
    <p v-if="fault || recordingFault" class="fault-text" role="alert">
      <Shape name="fault" /> {{ fault || recordingFault }}
    </p>
    <div v-if="session.mayEdit && !item.retired" class="buttons">
      <v-btn :loading="working === 'speak'" :disabled="changed || item.words.trim() === ''" @click="speak"
        >Speak</v-btn
      >
      <v-btn v-if="recording" @click="stop">Stop</v-btn>
      <v-btn v-else :disabled="changed" @click="start">Record</v-btn>
      <v-btn :loading="working === 'bring'" :disabled="changed || recording" @click="file?.click()"
        >Bring a file</v-btn
      >
      <input
        ref="file"
        type="file"
        accept=".wav,.mp3,.ogg,.opus,audio/*"
        class="hidden"
        aria-label="A sound as WAV, MP3 or Ogg"
        @change="bring(($event.target as HTMLInputElement).files?.[0])"
      />
      <span v-if="changed" class="second small">Save the words first.</span>
    </div>
    <EarlierSounds :item="item" :changed="changed" />
  </section>
</template>

<style scoped>
.level {
  overflow: hidden;
  display: flex;
  flex-direction: column;
}
.bars {
  stroke: var(--brass);
  stroke-width: 2;
}
.hidden {
  display: none;
}
</style>

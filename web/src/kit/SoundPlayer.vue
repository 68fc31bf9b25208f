<script lang="ts">
/** One sound at a time on the whole page. */
let playing: HTMLAudioElement | null = null;
</script>

<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { span } from '@night-bell/core/story/span';

/** A sound, drawn one-sided on a line, with one button and its time; the slider moves within it. */
const props = defineProps<{ src: string; peaks: readonly number[]; seconds: number; label: string }>();
const emit = defineEmits<{ heard: [] }>();
/** Who listened for so long, or to the end, has heard it. */
const heardAfter = 3;
let told = false;
const audio = new Audio();
audio.preload = 'none';
const at = ref(0);
const isOn = ref(false);
const fault = ref('');
const step = 3;
const bars = computed(() => {
  const count = Math.min(props.peaks.length, 100);
  return Array.from({ length: count }, (_, i) => {
    const from = Math.floor((i * props.peaks.length) / count);
    const to = Math.max(from + 1, Math.floor(((i + 1) * props.peaks.length) / count));
    return Math.max(...props.peaks.slice(from, to));
  });
});
const head = computed(() => (props.seconds === 0 ? 0 : (at.value / props.seconds) * bars.value.length));
const time = (seconds: number) => span(Math.min(seconds, props.seconds) * 1000);

function isHeard(): void {
  if (!told) emit('heard');
  told = true;
}
audio.addEventListener('timeupdate', () => {
  at.value = audio.currentTime;
  if (audio.currentTime >= heardAfter) isHeard();
});
audio.addEventListener('ended', () => {
  isHeard();
  isOn.value = false;
  at.value = 0;
});
audio.addEventListener('pause', () => (isOn.value = false));
audio.addEventListener('error', () => {
  if (audio.src !== '') fault.value = 'This sound cannot be heard just now.';
  isOn.value = false;
});
watch(
  () => props.src,
  () => {
    audio.pause();
    audio.removeAttribute('src');
    at.value = 0;
    told = false;
    fault.value = '';
  },
);
onBeforeUnmount(() => audio.pause());

async function toggle(): Promise<void> {
  if (isOn.value) return audio.pause();
  playing?.pause();
  playing = audio;
  if (audio.src === '') audio.src = props.src;
  fault.value = '';
  isOn.value = true;
  // The fault is told by the element itself.
  await audio.play().catch(() => undefined);
}
function move(to: number): void {
  at.value = to;
  if (audio.src === '') audio.src = props.src;
  audio.currentTime = to;
}
defineExpose({ toggle, move: (by: number) => move(Math.max(0, Math.min(props.seconds, at.value + by))) });
</script>

<template>
  <div class="player">
    <button type="button" class="play" :aria-label="`${isOn ? 'Stop' : 'Play'} ${label}`" @click="toggle">
      <svg width="12" height="12" aria-hidden="true">
        <path :d="isOn ? 'M2 2h8v8H2z' : 'M2 1l9 5-9 5z'" fill="currentColor" />
      </svg>
    </button>
    <svg :width="bars.length * step" height="46" class="wave" aria-hidden="true">
      <path :d="`M0 44.500h${bars.length * step}`" class="line" />
      <rect
        v-for="(bar, index) in bars"
        :key="index"
        :x="index * step"
        :y="44 - bar * 0.42"
        width="2"
        :height="bar * 0.42"
        :class="{ played: index < head }"
      />
    </svg>
    <input
      type="range"
      class="slider"
      min="0"
      :max="seconds"
      step="0.1"
      :value="at"
      :aria-label="`Position in ${label}`"
      :aria-valuetext="`${time(at)} of ${time(seconds)}`"
      @input="move(Number(($event.target as HTMLInputElement).value))"
    />
    <span class="mono second">{{ time(at) }} of {{ time(seconds) }}</span>
    <p v-if="fault" class="fault-text small" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.player {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  position: relative;
}
.play {
  width: 28px;
  height: 28px;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.wave {
  max-width: 300px;
}
.wave rect {
  fill: var(--rule2);
}
.wave .played {
  fill: var(--brass);
}
.line {
  stroke: var(--rule2);
}
.slider {
  position: absolute;
  left: 38px;
  top: 0;
  width: 300px;
  height: 46px;
  opacity: 0;
  cursor: pointer;
}
.slider:focus-visible + span {
  outline: 2px solid var(--brass);
}
</style>

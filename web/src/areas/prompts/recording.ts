import { onBeforeUnmount, ref } from 'vue';

/** Samples a second that are kept: twice what a telephone carries. */
const rate = 16_000;
const longestSeconds = 110;
const levelEveryMs = 80;

/** What a person says into their microphone, as a WAV file (16 bits, one channel). */
export function useRecording(done: (file: Uint8Array) => void) {
  const recording = ref(false);
  const fault = ref('');
  /** How loud it was, from 0 to 100, one for each moment so far. */
  const levels = ref<number[]>([]);
  const seconds = ref(0);
  let recorder: MediaRecorder | null = null;
  let stream: MediaStream | null = null;
  let context: AudioContext | null = null;
  let timer: ReturnType<typeof setInterval> | null = null;

  async function start(): Promise<void> {
    fault.value = '';
    levels.value = [];
    seconds.value = 0;
    try {
      stream = await navigator.mediaDevices.getUserMedia({ audio: { channelCount: 1 } });
    } catch {
      fault.value =
        'The microphone is not open to this page. Allow it in the address bar of your browser, then press Record again.';
      return;
    }
    context = new AudioContext();
    const analyser = context.createAnalyser();
    context.createMediaStreamSource(stream).connect(analyser);
    const heard = new Float32Array(analyser.fftSize);
    const parts: Blob[] = [];
    const began = Date.now();
    recorder = new MediaRecorder(stream);
    recorder.ondataavailable = ({ data }) => parts.push(data);
    recorder.onstop = () => void finish(parts);
    recorder.start();
    recording.value = true;
    timer = setInterval(() => {
      analyser.getFloatTimeDomainData(heard);
      const peak = heard.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
      levels.value = [...levels.value, Math.round(peak * 100)].slice(-200);
      seconds.value = (Date.now() - began) / 1000;
      if (seconds.value >= longestSeconds) stop();
    }, levelEveryMs);
  }

  function stop(): void {
    if (recorder?.state === 'recording') recorder.stop();
  }

  async function finish(parts: Blob[]): Promise<void> {
    close();
    try {
      // Whatever the browser recorded, decoded by itself to the rate that is kept.
      const bytes = await new Blob(parts).arrayBuffer();
      const decoded = await new OfflineAudioContext(1, 1, rate).decodeAudioData(bytes);
      const module = await import('wavefile');
      // As a bundle of its own it has a default, as a module it has none.
      const { WaveFile } = 'WaveFile' in module ? module : (module as { default: typeof module }).default;
      const wav = new WaveFile();
      const samples = Array.from(decoded.getChannelData(0), (each) =>
        Math.round(Math.max(-1, Math.min(1, each)) * 32_767),
      );
      wav.fromScratch(1, decoded.sampleRate, '16', samples);
      done(wav.toBuffer());
    } catch {
      fault.value = 'What was recorded cannot be read. Record it again, or bring a file.';
    }
  }

  function close(): void {
    if (timer !== null) clearInterval(timer);
    for (const track of stream?.getTracks() ?? []) track.stop();
    void context?.close();
    [timer, stream, context] = [null, null, null];
    recording.value = false;
  }
  onBeforeUnmount(() => {
    if (recorder !== null) recorder.onstop = null;
    close();
  });

  return { recording, levels, seconds, fault, start, stop };
}

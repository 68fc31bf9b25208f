/**
 * Makes the default sounds that ship with Night Bell, with the voice that is there and with tones:
 * npx tsx --conditions=source server/src/sound/make-defaults.ts. Their lengths stand in core (sound/defaults.ts).
 */
import { writeFileSync } from 'node:fs';
import wavefile from 'wavefile';
import { defaultSounds } from '@night-bell/core/sound/defaults';
import { promptKinds } from '@night-bell/core/sound/kinds';
import { prepare } from './prepare.ts';
import { espeak } from './voice.ts';

const rate = 8_000;

/** Notes in Hz, each for some seconds, swelling and fading as a bell does; 0 is a rest. */
function bells(notes: [hertz: number, seconds: number][]): number[] {
  return notes.flatMap(([hertz, seconds]) =>
    Array.from({ length: Math.round(seconds * rate) }, (_, at) => {
      const fading = Math.exp((-3 * at) / (seconds * rate)) * Math.min(1, at / 160);
      const wave =
        Math.sin((2 * Math.PI * hertz * at) / rate) + 0.3 * Math.sin((4 * Math.PI * hertz * at) / rate);
      return hertz === 0 ? 0 : Math.round(7_000 * fading * wave);
    }),
  );
}

/** The ringback of North America: 440 and 480 Hz, two seconds on and four off (ITU-T E.180, supplement 2). */
function ringback(): number[] {
  return Array.from({ length: 6 * rate }, (_, at) =>
    at >= 2 * rate
      ? 0
      : Math.round(
          5_000 * (Math.sin((2 * Math.PI * 440 * at) / rate) + Math.sin((2 * Math.PI * 480 * at) / rate)),
        ),
  );
}

function wav(samples: number[]): Uint8Array {
  const file = new wavefile.WaveFile();
  file.fromScratch(1, rate, '16', samples);
  return file.toBuffer();
}

const melody: [number, number][] = [523, 659, 784, 659, 587, 698, 880, 0].map((hertz) => [hertz, 1]);

for (const kind of promptKinds) {
  const { words } = defaultSounds[kind];
  const file =
    words === null ? wav(kind === 'hold' ? bells(melody) : ringback()) : await espeak.speak(words, 'en');
  const { telephone, seconds } = await prepare(file, 30);
  writeFileSync(new URL(`../../sounds/${kind}.wav`, import.meta.url), telephone);
  process.stdout.write(`${kind}: ${seconds.toFixed(1)} s\n`);
}

import { spawn } from 'node:child_process';
import wavefile from 'wavefile';

/** What stand-in callers say to a voicemail box: pieces that are put together until the message is as long as it was. */
const pieces = [
  'Hello, this is about the crate that was to come over on the noon sailing.',
  'It has not arrived, and the crew at the terminal do not know where it is.',
  'Could somebody please call me back today? I am here until five.',
  'Good morning, we booked a cabin for four, and now we are only three.',
  'I left a green umbrella on the upper deck, near the stairs.',
  'Please tell me whether the late boat goes on Sunday, because of the wind.',
  'The invoice says two trucks, but there was only one.',
  'Thank you. You have my number. Goodbye.',
];
const voices = ['en+f2', 'en+m3', 'en+f4', 'en-us+m7'];
const rate = 8_000;
const pause = new Int16Array(rate * 0.45);
const patienceMs = 10_000;
/** Spoken pieces, by voice and place; there are few. */
const spoken = new Map<string, Promise<Int16Array>>();

/**
 * What a caller said, as a WAV file of that length: 8 kHz, 16 bits, one channel. Without a voice on this machine it is
 * babble, of the same length.
 *
 * @param seed the same gives the same words
 */
export async function messageSound(seconds: number, seed: number): Promise<Buffer> {
  const samples = new Int16Array(Math.max(1, Math.round(seconds * rate)));
  const voice = voices[seed % voices.length]!;
  for (let at = 0, i = seed; at < samples.length; i++) {
    const piece = await sayPiece(voice, i % pieces.length);
    samples.set(piece.subarray(0, samples.length - at), at);
    at += piece.length + pause.length;
  }
  const wav = new wavefile.WaveFile();
  wav.fromScratch(1, rate, '16', samples);
  return Buffer.from(wav.toBuffer());
}

function sayPiece(voice: string, index: number): Promise<Int16Array> {
  const key = `${voice} ${index}`;
  let known = spoken.get(key);
  if (known === undefined) {
    known = speak(voice, pieces[index]!).catch(() => babble(pieces[index]!));
    spoken.set(key, known);
  }
  return known;
}

function speak(voice: string, words: string): Promise<Int16Array> {
  return new Promise((resolve, reject) => {
    const program = spawn('espeak-ng', ['-v', voice, '-s', '155', '--stdin', '--stdout'], {
      stdio: ['pipe', 'pipe', 'ignore'],
    });
    const timer = setTimeout(() => program.kill('SIGKILL'), patienceMs);
    const parts: Buffer[] = [];
    program.on('error', reject);
    program.stdout.on('data', (part: Buffer) => parts.push(part));
    program.on('close', (code) => {
      clearTimeout(timer);
      const file = Buffer.concat(parts);
      if (code !== 0 || file.length <= 44) return reject(new Error('no voice'));
      resolve(telephoneSamples(file));
    });
    program.stdin.on('error', () => undefined);
    program.stdin.end(words);
  });
}

/** A program that writes to a pipe leaves the lengths of its file open. */
function telephoneSamples(file: Buffer): Int16Array {
  const fixed = Buffer.from(file);
  fixed.writeUInt32LE(fixed.length - 8, 4);
  fixed.writeUInt32LE(fixed.length - 44, 40);
  const wav = new wavefile.WaveFile(fixed);
  wav.toSampleRate(rate);
  return Int16Array.from(wav.getSamples(false, Int16Array) as unknown as Int16Array);
}

/** Tones in the rhythm of the words, where nobody can speak them. */
function babble(words: string): Int16Array {
  return Int16Array.from(
    words.split(' ').flatMap((word, i) =>
      Array.from({ length: Math.round(rate * 0.06 * word.length) }, (_, at) => {
        const swell = Math.sin((Math.PI * at) / (rate * 0.06 * word.length));
        return Math.round(9_000 * swell * Math.sin((2 * Math.PI * (140 + 12 * (i % 5)) * at) / rate));
      }),
    ),
  );
}

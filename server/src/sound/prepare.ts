import { measure, type Measured } from '@night-bell/core/sound/measure';
import wavefile from 'wavefile';

/** A sound made ready: as callers hear it, G.711 at 8 kHz, one channel (ITU-T G.711, mu-law), and what is said of it. */
export interface Prepared extends Measured {
  telephone: Uint8Array;
}

/** Why a file is not taken, in a sentence. */
export class NotASound extends Error {}

/** Of a prompt. */
export const longestSeconds = 300;
const telephoneRate = 8_000;

/**
 * Reads a WAV file by its content.
 *
 * Throws NotASound for what is none, too long, or has no sound in it.
 *
 * @param longest seconds that are taken
 */
export function prepare(file: Uint8Array, longest: number): Prepared {
  const wav = new wavefile.WaveFile();
  try {
    wav.fromBuffer(whole(file));
  } catch {
    throw new NotASound('This is no WAV file that can be read. Save it as WAV and bring it again.');
  }
  const { sampleRate, numChannels } = wav.fmt as { sampleRate: number; numChannels: number };
  const samples = oneChannel(wav.getSamples(false, Float64Array) as unknown as Float64Array | Float64Array[]);
  const bits = Number.parseInt(wav.bitDepth, 10);
  const scale = wav.bitDepth === '32f' || wav.bitDepth === '64' ? 1 : 2 ** (bits - 1);
  const scaled = samples.map((each) => (bits === 8 ? each - 128 : each) / (bits === 8 ? 128 : scale));
  const measured = measure(scaled, sampleRate);
  if (numChannels < 1 || measured.seconds === 0) throw new NotASound('There is nothing in this file.');
  if (measured.seconds > longest)
    throw new NotASound(
      `This is ${Math.round(measured.seconds)} seconds long; at most ${longest} are taken. Cut it.`,
    );
  const telephone = new wavefile.WaveFile();
  telephone.fromScratch(
    1,
    sampleRate,
    '16',
    scaled.map((each) => Math.max(-32_768, Math.min(32_767, Math.round(each * 32_767)))),
  );
  telephone.toSampleRate(telephoneRate);
  telephone.toMuLaw();
  return { ...measured, telephone: telephone.toBuffer() };
}

/** Channels are mixed: a telephone has one ear. */
function oneChannel(samples: Float64Array | Float64Array[]): Float64Array {
  if (samples instanceof Float64Array) return samples;
  const [first] = samples;
  if (first === undefined) return new Float64Array(0);
  return first.map((_, i) => samples.reduce((sum, channel) => sum + channel[i]!, 0) / samples.length);
}

/** Programs that write to a pipe do not know how long the file will be, and say that it is endless. */
function whole(file: Uint8Array): Uint8Array {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  const data = Buffer.from(file.buffer, file.byteOffset, file.byteLength).indexOf('data');
  if (file.byteLength < 44 || data < 0 || view.getUint32(data + 4, true) <= file.byteLength) return file;
  const copy = file.slice();
  const fixed = new DataView(copy.buffer);
  fixed.setUint32(4, copy.byteLength - 8, true);
  fixed.setUint32(data + 4, copy.byteLength - data - 8, true);
  return copy;
}

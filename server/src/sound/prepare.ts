import { measure } from '@night-bell/core/sound/measure';
import wavefile from 'wavefile';
import { decode } from './decode.ts';
import type { Prepared } from './prepared.ts';
import { NotASound } from './not-a-sound.ts';

const telephoneRate = 8_000;

/**
 * Reads a sound by its content: WAV, MP3 or Ogg (Vorbis, Opus), whatever its name says.
 * Throws NotASound for what is none, too long, or has no sound in it.
 *
 * @param longest seconds that are taken
 */
export async function prepare(file: Uint8Array, longest: number): Promise<Prepared> {
  const { samples, sampleRate } = await decode(file);
  const measured = measure(samples, sampleRate);
  if (measured.seconds === 0) throw new NotASound('There is nothing in this file.');
  if (measured.seconds > longest)
    throw new NotASound(
      `This is ${Math.round(measured.seconds)} seconds long; at most ${longest} are taken. Cut it.`,
    );
  const telephone = new wavefile.WaveFile();
  telephone.fromScratch(
    1,
    sampleRate,
    '16',
    samples.map((each) => Math.max(-32_768, Math.min(32_767, Math.round(each * 32_767)))),
  );
  telephone.toSampleRate(telephoneRate);
  telephone.toMuLaw();
  return { ...measured, telephone: telephone.toBuffer() };
}

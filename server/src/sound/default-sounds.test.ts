import wavefile from 'wavefile';
import { expect, test } from 'vitest';
import { defaultSounds } from '@night-bell/core/sound/defaults';
import { promptKinds } from '@night-bell/core/sound/kinds';
import { defaultSound } from './default-sounds.ts';
import { prepare } from './prepare.ts';

test.each(promptKinds)(
  'the default for %s is there, as the telephone has it, as long as core says, and can be heard',
  async (kind) => {
    const file = await defaultSound(kind);
    expect(new wavefile.WaveFile(file).fmt).toMatchObject({
      audioFormat: 7,
      sampleRate: 8_000,
      numChannels: 1,
    });
    const decoded = new wavefile.WaveFile(file);
    decoded.fromMuLaw();
    const { seconds, silent, clipping } = await prepare(decoded.toBuffer(), 60);
    expect(Math.ceil(Math.round(seconds * 10) / 10)).toBe(defaultSounds[kind].seconds);
    expect([silent, clipping]).toEqual([false, false]);
  },
);

import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { MPEGDecoder } from 'mpg123-decoder';
import { OggOpusDecoder } from 'ogg-opus-decoder';
import wavefile from 'wavefile';
import { NotASound } from './not-a-sound.ts';

/** One channel, from -1 to 1. */
export interface Decoded {
  samples: Float64Array;
  sampleRate: number;
}

interface Channels {
  channelData: Float32Array[];
  sampleRate: number;
}

const unreadable =
  'This is no WAV, MP3 or Ogg file that can be read. Save it as one of these and bring it again.';

/** Reads a sound by what it begins with, not by its name. Throws NotASound. */
export async function decode(file: Uint8Array): Promise<Decoded> {
  try {
    const begins = (text: string, at = 0) =>
      Buffer.from(file.subarray(at, at + text.length)).toString('latin1') === text;
    if (begins('RIFF') && begins('WAVE', 8)) return decodeWav(file);
    if (begins('OggS')) return mixed(await decodeOgg(file));
    if (begins('ID3') || (file[0] === 0xff && (file[1]! & 0xe0) === 0xe0))
      return mixed(await decodeMp3(file));
  } catch {
    // What the reader says of it means nothing to whoever brought it.
  }
  throw new NotASound(unreadable);
}

async function decodeMp3(file: Uint8Array): Promise<Channels> {
  const decoder = new MPEGDecoder();
  await decoder.ready;
  try {
    return decoder.decode(file);
  } finally {
    decoder.free();
  }
}

/** An Ogg file says in its first page what is in it (RFC 7845; Vorbis I, 4.2). */
async function decodeOgg(file: Uint8Array): Promise<Channels> {
  const isOpus = Buffer.from(file.subarray(0, 200)).includes('OpusHead');
  const decoder = isOpus ? new OggOpusDecoder() : new OggVorbisDecoder();
  await decoder.ready;
  try {
    return await decoder.decodeFile(file);
  } finally {
    decoder.free();
  }
}

function mixed({ channelData, sampleRate }: Channels): Decoded {
  const [first] = channelData;
  if (first === undefined || first.length === 0) throw new Error('nothing was decoded');
  return { samples: oneChannel(channelData.map((channel) => Float64Array.from(channel))), sampleRate };
}

function decodeWav(file: Uint8Array): Decoded {
  const wav = new wavefile.WaveFile();
  wav.fromBuffer(whole(file));
  const { sampleRate, numChannels } = wav.fmt as { sampleRate: number; numChannels: number };
  if (numChannels < 1) throw new Error('no channel');
  const read = wav.getSamples(false, Float64Array) as unknown as Float64Array | Float64Array[];
  const samples = oneChannel(read instanceof Float64Array ? [read] : read);
  const bits = Number.parseInt(wav.bitDepth, 10);
  const scale = wav.bitDepth === '32f' || wav.bitDepth === '64' ? 1 : 2 ** (bits - 1);
  return {
    samples: samples.map((each) => (bits === 8 ? each - 128 : each) / (bits === 8 ? 128 : scale)),
    sampleRate,
  };
}

/** Channels are mixed: a telephone has one ear. */
function oneChannel(channels: Float64Array[]): Float64Array {
  const [first] = channels;
  if (first === undefined) return new Float64Array(0);
  if (channels.length === 1) return first;
  return first.map((_, i) => channels.reduce((sum, channel) => sum + channel[i]!, 0) / channels.length);
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

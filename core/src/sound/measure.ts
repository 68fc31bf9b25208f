/** What is said of a sound, by its samples: -1 to 1. */
export interface Measured {
  seconds: number;
  /** The loudest of each of so many equal parts, 0 to 100; for drawing. */
  peaks: number[];
  /** Root mean square, in decibels below full scale (dBFS); -Infinity for silence. */
  loudness: number;
  /** Nothing in it can be heard. */
  silent: boolean;
  /** It was recorded too loud: some of it is cut off at full scale. */
  clipping: boolean;
}

const peakCount = 128;
/** Below -50 dBFS at its loudest nobody hears anything on a telephone. */
const silentBelow = 10 ** (-50 / 20);
const fullScale = 0.999;
/** Samples at full scale, out of all, from which on one hears it. */
const clippingShare = 0.0005;

/**
 * @param samples of one channel, -1 to 1
 * @param rate samples a second
 */
export function measure(samples: Readonly<ArrayLike<number>>, rate: number): Measured {
  const { length } = samples;
  const peaks = new Array<number>(peakCount).fill(0);
  let squares = 0;
  let loudest = 0;
  let full = 0;
  for (let i = 0; i < length; i++) {
    const size = Math.abs(samples[i]!);
    squares += size * size;
    if (size > loudest) loudest = size;
    if (size >= fullScale) full++;
    const part = Math.floor((i * peakCount) / length);
    if (size > peaks[part]!) peaks[part] = size;
  }
  return {
    seconds: length / rate,
    peaks: peaks.map((peak) => Math.round(Math.min(1, peak) * 100)),
    loudness: length === 0 || squares === 0 ? Number.NEGATIVE_INFINITY : 10 * Math.log10(squares / length),
    silent: loudest < silentBelow,
    clipping: length > 0 && full / length > clippingShare,
  };
}

import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { measure } from './measure.ts';

const rate = 8_000;
const tone = (seconds: number, size: number) =>
  Float64Array.from({ length: seconds * rate }, (_, i) => size * Math.sin((2 * Math.PI * 440 * i) / rate));

describe('a sound is measured', () => {
  test('a sine of full size is 3.01 dB below full scale, of half that size 6.02 less', () => {
    expect(measure(tone(1, 0.99), rate).loudness).toBeCloseTo(20 * Math.log10(0.99) - 3.0103, 2);
    expect(measure(tone(1, 0.5), rate).loudness).toBeCloseTo(-9.0309, 2);
  });

  test('its length, and where it is loud', () => {
    const halves = Float64Array.from([...tone(1, 0.1), ...tone(1, 0.8)]);
    const { seconds, peaks } = measure(halves, rate);
    expect(seconds).toBe(2);
    expect(peaks).toHaveLength(128);
    expect([Math.max(...peaks.slice(0, 64)), Math.max(...peaks.slice(64))]).toEqual([10, 80]);
  });

  test('what cannot be heard, and what is cut off', () => {
    expect(measure(tone(1, 0.001), rate)).toMatchObject({ silent: true, clipping: false });
    expect(measure(new Float64Array(0), rate)).toMatchObject({
      silent: true,
      seconds: 0,
      loudness: -Infinity,
    });
    const cut = tone(1, 3).map((size) => Math.max(-1, Math.min(1, size)));
    expect(measure(cut, rate)).toMatchObject({ silent: false, clipping: true });
    expect(measure(tone(1, 0.9), rate)).toMatchObject({ silent: false, clipping: false });
  });

  test('louder is never less loud', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -0.4, max: 0.4, noNaN: true }), { minLength: 1 }), (samples) => {
        const louder = samples.map((each) => each * 2);
        expect(measure(louder, rate).loudness).toBeGreaterThanOrEqual(measure(samples, rate).loudness);
      }),
    );
  });
});

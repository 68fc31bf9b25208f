import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { textParts } from './parts.ts';
import { asksToStop } from './stop-words.ts';

describe('parts of a text', () => {
  test.each([
    ['nothing', '', 'gsm7', 0, 0],
    ['as much as one holds', 'a'.repeat(160), 'gsm7', 160, 1],
    ['one more takes two', 'a'.repeat(161), 'gsm7', 161, 2],
    ['two full ones', 'a'.repeat(306), 'gsm7', 306, 2],
    ['and one more', 'a'.repeat(307), 'gsm7', 307, 3],
    ['what the extension table holds counts twice', '€'.repeat(80), 'gsm7', 160, 1],
    ['an escape is not divided', `${'a'.repeat(152)}€${'a'.repeat(152)}`, 'gsm7', 306, 3],
    ['letters of the default alphabet', 'Ærø, Malmö ¿à?', 'gsm7', 14, 1],
    ['one other letter makes all of it UCS-2', `ł${'a'.repeat(69)}`, 'ucs2', 70, 1],
    ['UCS-2 in two', `ł${'a'.repeat(70)}`, 'ucs2', 71, 2],
    ['a pair of surrogates is not divided', `${'ł'.repeat(66)}⛴️🛟${'ł'.repeat(10)}`, 'ucs2', 80, 2],
  ])('%s', (_, body, encoding, units, parts) => {
    expect(textParts(body)).toEqual({ encoding, units, parts });
  });

  test('never fewer parts than the units need, never more than one wasted unit a part explains', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 600 }), (body) => {
        const { encoding, units, parts } = textParts(body);
        const [alone, each] = encoding === 'gsm7' ? [160, 153] : [70, 67];
        expect(parts === 1).toBe(units > 0 && units <= alone);
        if (parts > 1) {
          expect(parts).toBeGreaterThanOrEqual(Math.ceil(units / each));
          expect(parts).toBeLessThanOrEqual(Math.ceil(units / (each - 1)));
        }
      }),
    );
  });
});

test.each([
  ['STOP', true],
  ['stop.', true],
  [' Opt-out ', true],
  ['Unsubscribe!', true],
  ['please stop', false],
  ['stopover in Anacortes', false],
  ['', false],
])('%j asks to stop: %s', (body, asks) => {
  expect(asksToStop(body)).toBe(asks);
});

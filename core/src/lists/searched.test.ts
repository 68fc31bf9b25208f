import fc from 'fast-check';
import { expect, test } from 'vitest';
import { searchedWords } from './searched.ts';

test.each([
  ['Zoë  Quay', ['zoe', 'quay']],
  ['ann.lee@x', ['ann', 'lee', 'x']],
  ['+1 206 555-0142', ['1', '206', '555', '0142']],
  ['Straße ÅSA', ['straße', 'asa']],
  ["'; drop table", ['drop', 'table']],
  ['   ', []],
])('%s is searched by %j', (text, words) => expect(searchedWords(text)).toEqual(words));

test('whatever is typed, words are few, short, and of letters and digits only', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => {
      const words = searchedWords(text);
      expect(words.length).toBeLessThanOrEqual(8);
      for (const word of words) expect(word).toMatch(/^[\p{L}\p{N}]{1,60}$/u);
    }),
  );
});

test('searching for what a search was split into finds the same', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), (text) => {
      expect(searchedWords(searchedWords(text).join(' '))).toEqual(searchedWords(text));
    }),
  );
});

import { expect, test } from 'vitest';
import { needsVoice } from './needs-voice.ts';

test.each([
  ['written and never spoken', { retired: false, words: 'Welcome.', sound: null }, true],
  ['says other words', { retired: false, words: 'Welcome.', sound: { current: false } }, true],
  ['says what is written', { retired: false, words: 'Welcome.', sound: { current: true } }, false],
  ['nothing written', { retired: false, words: '  ', sound: null }, false],
  ['deactivated', { retired: true, words: 'Welcome.', sound: null }, false],
])('a prompt that is %s', (_, prompt, needs) => {
  expect(needsVoice(prompt)).toBe(needs);
});

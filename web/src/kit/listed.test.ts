import { expect, test } from 'vitest';
import { listed } from './listed.ts';

test('names are told in a sentence, each once, and many are counted', () => {
  expect(listed(['Main line'])).toBe('Main line');
  expect(listed(['Main line', 'Freight', 'Main line'])).toBe('Main line and Freight');
  expect(listed(['A', 'B', 'C', 'D', 'E', 'F'])).toBe('A, B, C, D, and 2 more');
});

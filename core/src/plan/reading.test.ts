import fc from 'fast-check';
import { expect, test } from 'vitest';
import { remove } from './document.ts';
import { compared, sentencesOf } from './reading.ts';
import { planTemplates } from './templates.ts';

const names = (kind: string, id: string) => (id === '' ? `a ${kind}` : id);
const night = planTemplates.find(({ key }) => key === 'dayAndNight')!.document;

test('a plan is read out: each step, each way out of it', () => {
  expect(sentencesOf(night, names).map(({ text }) => text)).toEqual([
    '1. Ask the hours of a hours.',
    'When “closed”:',
    '2. Say a prompt.',
    '3. Take a message for a voicemail.',
    '4. Say a prompt.',
    '5. Wait for an agent of a queue.',
  ]);
});

test('two versions are compared in words: what is gone, what is new, and not what only moved down', () => {
  const shorter = remove(night, 's2');
  const lines = compared(sentencesOf(night, names), sentencesOf(shorter, names));
  expect(lines.filter(({ change }) => change !== 'same')).toEqual([
    { depth: 0, text: '4. Say a prompt.', change: 'gone' },
  ]);
});

test('whatever differs, both can be read off the comparison', () => {
  const sentence = fc.record({ depth: fc.nat(2), text: fc.constantFrom('a', 'b', 'c', 'd') });
  fc.assert(
    fc.property(fc.array(sentence), fc.array(sentence), (before, after) => {
      const lines = compared(before, after);
      const of = (not: string) =>
        lines.filter(({ change }) => change !== not).map(({ depth, text }) => ({ depth, text }));
      expect(of('new')).toEqual(before);
      expect(of('gone')).toEqual(after);
    }),
  );
});

import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Answer, answerIn, answersFault, plainWords } from './phrases.ts';

const answers: Answer[] = [
  { id: 'times', name: 'Times', phrases: ['sailing times', 'when does the boat', 'times'] },
  { id: 'book', name: 'Book', phrases: ['book', 'a cabin', 'book a crossing'] },
  { id: 'change', name: 'Change', phrases: ['change', 'change a booking', 'Ändern'] },
];
const understood = (said: string) => answerIn(said, answers)?.answer.id ?? null;

describe('what was said', () => {
  test.each([
    ['I would like the sailing times, please.', 'times'],
    ['TIMES', 'times'],
    ['Book me a cabin', 'book'],
    ['I want to change a booking', 'change'],
    ['bitte aendern', null],
    ['bitte ändern!', 'change'],
    ['bookings', null],
    ['', null],
    ['?!', null],
  ])('“%s” is %s', (said, id) => expect(understood(said)).toBe(id));

  test('the longest phrase wins, whatever stands first; of equal ones the first answer', () => {
    expect(understood('book, I mean change a booking')).toBe('change');
    expect(understood('book or change')).toBe('book');
    expect(answerIn('change a booking', answers)?.phrase).toBe('change a booking');
  });

  const word = fc.constantFrom('boat', 'cabin', 'time', 'north', 'quay');
  test('a phrase is found wherever it stands whole, and never across a word', () => {
    fc.assert(
      fc.property(
        fc.array(word),
        fc.array(word, { minLength: 1, maxLength: 3 }),
        fc.array(word),
        (a, b, c) => {
          const one: Answer[] = [{ id: 'x', name: '', phrases: [b.join(' ')] }];
          expect(answerIn([...a, ...b, ...c].join(', '), one)).not.toBeNull();
          expect(answerIn([...a, b.join(''), ...c].join('x'), b.length > 1 ? one : [])).toBeNull();
        },
      ),
    );
    expect(plainWords('Café, 9:40!')).toEqual(['cafe', '9', '40']);
  });
});

test('answers that cannot be are named at their place', () => {
  const fault = (value: unknown, isDraft = false) => answersFault('Answers', value, isDraft);
  expect(fault(answers)).toBeNull();
  expect(fault([], true)).toBeNull();
  expect(fault([])).toContain('add one');
  expect(fault([{ id: 'a', name: '', phrases: [] }])).toContain('Answer 1: say by which phrases');
  expect(fault([{ id: 'a', name: '', phrases: ['…'] }])).toContain('has no word in it');
  expect(fault([...answers, { id: 'more', name: '', phrases: ['A Cabin'] }])).toContain('stands with two');
  expect(fault([answers[0], answers[0]])).toContain('a name of its own');
  expect(
    fault(Array.from({ length: 21 }, (_, i) => ({ id: `a${i}`, name: '', phrases: [`p${i}`] }))),
  ).toContain('at most 20');
  expect(fault('many')).toContain('at most 20');
  expect(fault([{ id: 'a', name: 'x'.repeat(61), phrases: [] }], true)).toContain('60 characters');
});

import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fieldKey, merge, mergeFault, mergeParts } from './merge.ts';

const known = ['contact.first_name', 'contact.fare', 'agent.name'];

test('fields are filled, and what has no value becomes the word given for it', () => {
  const values = { 'contact.first_name': 'Ines' };
  expect(merge('Hello {{ contact.first_name }}, {{contact.fare}}!', values, undefined, '…')).toBe(
    'Hello Ines, …!',
  );
});

test('values for a link are written as a link needs them', () => {
  const link = merge(
    'https://crm.example/find?q={{ contact.first_name }}',
    { 'contact.first_name': 'a&b c' },
    encodeURIComponent,
  );
  expect(link).toBe('https://crm.example/find?q=a%26b%20c');
});

test('a value that looks like a field is not filled again', () => {
  expect(merge('{{ contact.first_name }}', { 'contact.first_name': '{{ agent.name }}' })).toBe(
    '{{ agent.name }}',
  );
});

test.each([
  ['Hello {{ contact.frist_name }}', /no field contact.frist_name. Perhaps contact.first_name\?/],
  ['Hello {{ name }}', /"name" is not a field/],
  ['Hello {{ contact.first_name', /left open/],
  ['Hello }}', /left open/],
])('%j is refused with what would be right', (template, sentence) => {
  expect(mergeFault(template, known)).toMatch(sentence);
});

test('text without braces is always good and comes out as it went in', () => {
  fc.assert(
    fc.property(
      fc.string().filter((text) => !/[{}]/.test(text)),
      (text) => {
        expect(mergeFault(text, known)).toBeNull();
        expect(merge(text, {})).toBe(text);
        expect(mergeParts(text).length).toBeLessThanOrEqual(1);
      },
    ),
  );
});

test('headers become field names', () => {
  expect(['First name', 'Tarif été', '2nd line', '???'].map(fieldKey)).toEqual([
    'first_name',
    'tarif_ete',
    'field_2nd_line',
    'field_1',
  ]);
});

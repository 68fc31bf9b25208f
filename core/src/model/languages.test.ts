import { expect, test } from 'vitest';
import { commonLanguages, heardIn, isLanguage, languageName, withoutRegion } from './languages.ts';

test.each([
  ['en', true],
  ['fr-CA', true],
  ['es-419', true],
  ['EN', false],
  ['french', false],
  ['fr-ca', false],
  [null, false],
])('%s is a language: %s', (value, is) => {
  expect(isLanguage(value)).toBe(is);
});

test('what is to be heard is in the language chosen, else for another region of it, else there is none', () => {
  expect(heardIn('fr-CA', ['fr', 'fr-CA', 'en'])).toBe('fr-CA');
  expect(heardIn('fr-CA', ['fr-FR', 'fr'])).toBe('fr');
  expect(heardIn('fr', ['en', 'fr-CA'])).toBe('fr-CA');
  expect(heardIn('de', ['en', 'fr'])).toBeUndefined();
});

test('every language to choose from is one, has a name, and stands in the order of names', () => {
  expect(commonLanguages.every(({ code }) => isLanguage(code))).toBe(true);
  const names = commonLanguages.map(({ name }) => name);
  expect(names).toEqual([...new Set(names)].sort());
  expect(languageName('fr')).toBe('French');
  expect(languageName('xx')).toBe('xx');
  expect(withoutRegion('pt-BR')).toBe('pt');
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { KeyChoice } from '@night-bell/core/model/plan';
import { show } from '../../testing.ts';
import KeyChoices from './KeyChoices.vue';

afterEach(() => (document.body.innerHTML = ''));

/** Beside what it tells its page, which gives that back to it. */
function asked(choices: KeyChoice[], readonly = false) {
  const told: (readonly KeyChoice[])[] = [];
  const page = show(KeyChoices, {
    ...{ modelValue: choices, readonly },
    'onUpdate:modelValue': (value: readonly KeyChoice[]) => {
      told.push(value);
      void page.setProps({ modelValue: value } as never);
    },
  });
  return { page, told };
}
const bookings = { key: '1', label: 'bookings' };
const button = (page: ReturnType<typeof show>, words: string) =>
  page.findAll('button').find((each) => each.text() === words || each.attributes('aria-label') === words)!;

test('a key more is the next that is free; with all of them taken there is none to add', async () => {
  const { page, told } = asked([bookings, { key: '3', label: 'lost property' }]);
  await button(page, 'Add a key').trigger('click');
  expect(told.at(-1)!.map(({ key }) => key)).toEqual(['1', '3', '2']);
  for (let count = 3; count < 12; count++) await button(page, 'Add a key').trigger('click');
  expect(new Set(told.at(-1)!.map(({ key }) => key)).size).toBe(12);
  expect(button(page, 'Add a key')).toBeUndefined();
});

test('a key is told what it is for, changed for one that no other has, and taken out', async () => {
  const { page, told } = asked([bookings, { key: '2', label: 'freight' }]);
  await page.get('[aria-label="What key 2 is for"]').setValue('parcels');
  expect(told.at(-1)![1]).toEqual({ key: '2', label: 'parcels' });
  const offered = page.get('[aria-label="Key 1"]').findAll('option');
  expect(offered.map((each) => each.text())).not.toContain('2');
  await page.get('[aria-label="Key 1"]').setValue('#');
  expect(told.at(-1)![0]).toEqual({ key: '#', label: 'bookings' });
  await button(page, 'Take key # out').trigger('click');
  expect(told.at(-1)).toEqual([{ key: '2', label: 'parcels' }]);
});

test('languages are asked for once somebody wants them, and stay where a key has one', async () => {
  const { page, told } = asked([bookings]);
  expect(page.find('.language').exists()).toBe(false);
  await button(page, 'Have keys choose a language').trigger('click');
  await page.get('[aria-label="Language that key 1 chooses"]').setValue('fr');
  expect(told.at(-1)).toEqual([{ ...bookings, language: 'fr' }]);
  await page.get('.language').setValue('');
  expect(told.at(-1)![0]!.language).toBeNull();
  // One that is not common, set by the API, can still be seen.
  const rare = asked([{ ...bookings, language: 'gd' }], true).page;
  expect((rare.get('.language').element as HTMLSelectElement).value).toBe('gd');
  expect(rare.findAll('button')).toHaveLength(0);
});

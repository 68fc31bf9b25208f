// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { show } from '../testing.ts';
import DayField from './DayField.vue';

const field = (modelValue = '') => show(DayField, { modelValue, label: 'Day', today: '2026-11-28' });
afterEach(() => (document.body.innerHTML = ''));

test.each([
  ['24 Dec', '2026-12-24'],
  ['3 March', '2027-03-03'],
  ['24.12.2027', '2027-12-24'],
  ['2026-12-24', '2026-12-24'],
  ['tomorrow', '2026-11-29'],
  ['Thu 24 Dec 2026', '2026-12-24'],
])('%s is %s', async (typed, date) => {
  const shown = field();
  await shown.find('input').setValue(typed);
  expect(shown.emitted('update:modelValue')).toEqual([[date]]);
});

test.each(['31 Feb', 'some day', '40.1.2026'])('%s is no day, and is kept to be mended', async (typed) => {
  const shown = field('2026-12-24');
  const input = shown.find('input');
  await input.setValue(typed);
  expect(shown.emitted('update:modelValue')).toBeUndefined();
  expect(input.attributes('aria-invalid')).toBe('true');
  expect(input.element.value).toBe(typed);
});

test('a day is shown in words', () => {
  expect(field('2026-12-24').find('input').element.value).toBe('Thu 24 Dec 2026');
});

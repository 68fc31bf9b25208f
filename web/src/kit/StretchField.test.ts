// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { nextTick } from 'vue';
import { show } from '../testing.ts';
import MomentField from './MomentField.vue';
import StretchField from './StretchField.vue';

afterEach(() => (document.body.innerHTML = ''));
const none = { from: '', to: '' };
const field = (modelValue = none) =>
  show(StretchField, { modelValue, label: 'Days', today: '2026-11-28', toward: 'past' });
const told = (page: ReturnType<typeof show>) => page.emitted('update:modelValue')?.map(([value]) => value);

test('is typed; emptied, it is every day; what cannot be read stays to be mended', async () => {
  const page = field({ from: '2026-11-01', to: '2026-11-05' });
  const input = page.get('input');
  expect(input.element.value).toBe('Sun 1 Nov 2026 to Thu 5 Nov 2026');
  await input.setValue('some time');
  expect(input.attributes('aria-invalid')).toBe('true');
  expect(told(page)).toBeUndefined();
  await input.setValue('last 7 days');
  await input.setValue('');
  expect(told(page)).toEqual([{ from: '2026-11-22', to: '2026-11-28' }, none]);
});

test('is chosen among those near', async () => {
  const page = field();
  await page
    .findAll('li button')
    .find((each) => each.text() === 'Yesterday')!
    .trigger('click');
  expect(told(page)).toEqual([{ from: '2026-11-27', to: '2026-11-27' }]);
});

test('is picked with two days in any order; the first alone is not yet one', async () => {
  const page = field();
  const calendar = page.getComponent({ name: 'VDatePicker' });
  const days = [new Date(2026, 10, 20, 12), new Date(2026, 10, 12, 12)];
  calendar.vm.$emit('update:modelValue', [days[0]]);
  await nextTick();
  expect(told(page)).toBeUndefined();
  calendar.vm.$emit('update:modelValue', days);
  await nextTick();
  expect(told(page)).toEqual([{ from: '2026-11-12', to: '2026-11-20' }]);
});

test('a moment is typed, and gone when its field is emptied or says what it says without one', async () => {
  const page = show(MomentField, { modelValue: '', id: 'at', today: '2026-11-28', placeholder: 'now' });
  const input = page.get('input');
  await input.setValue('24 Dec 14:30');
  expect(input.element.value).toBe('Thu 24 Dec 2026 14:30');
  await input.setValue('noon');
  expect(input.attributes('aria-invalid')).toBe('true');
  await input.setValue('now');
  expect(told(page)).toEqual(['2026-12-24T14:30', '']);
  expect(input.element.value).toBe('');
});

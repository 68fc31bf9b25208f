// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { nextTick } from 'vue';
import { show, within } from '../testing.ts';
import AddField from './AddField.vue';
import MembersField from './MembersField.vue';

afterEach(() => (document.body.innerHTML = ''));
type Shown = ReturnType<typeof show>;
const choice = (shown: Shown) => shown.findComponent({ name: 'VAutocomplete' });

test('what is chosen is told once, and the field is empty for the next', async () => {
  const shown = show(AddField, {
    items: [{ value: 'a', title: 'Ann' }],
    label: 'Add somebody',
    search: 'an',
  });
  choice(shown).vm.$emit('update:modelValue', 'a');
  choice(shown).vm.$emit('update:modelValue', null);
  await nextTick();
  expect(shown.emitted('add')).toEqual([['a']]);
  expect(shown.emitted('update:search')?.at(-1)).toEqual(['']);
});

test('members are added at the end, and taken out; who only reads does neither', async () => {
  const props = { modelValue: ['a', 'b'], field: 'members', empty: 'Nobody.' };
  const shown = show(MembersField, props);
  choice(shown).vm.$emit('update:modelValue', 'c');
  await nextTick();
  expect(shown.emitted('update:modelValue')?.at(-1)).toEqual([['a', 'b', 'c']]);
  await shown.get('li button').trigger('click');
  expect(shown.emitted('update:modelValue')?.at(-1)).toEqual([['b', 'c']]);
  const reader = show(MembersField, props, within({ readonly: true }));
  expect([reader.find('button').exists(), choice(reader).exists()]).toEqual([false, false]);
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { nextTick } from 'vue';
import { show, within } from '../testing.ts';
import ChoiceLine from './ChoiceLine.vue';
import { faultOf } from './form.ts';
import FormSentence from './FormSentence.vue';
import OrderedField from './OrderedField.vue';
import OutcomesField from './OutcomesField.vue';
import SentenceField from './SentenceField.vue';
import TextLine from './TextLine.vue';

afterEach(() => (document.body.innerHTML = ''));

test('the first fault of a line is shown, also of an entry of its list; none of a field that begins alike', () => {
  const faults = { '/members/2': 'Twice.', '/port': 'A port.', '/portal': 'No.' };
  expect(faultOf(faults, ['host', 'port'])).toBe('A port.');
  expect(faultOf(faults, ['members'])).toBe('Twice.');
  expect(faultOf(faults, ['mem', 'por'])).toBeUndefined();
});

test('a line is known by its form and field, and says what is wrong with it', () => {
  const form = within({ kind: 'trunk', faults: { '/host': 'Type a host.' } });
  const shown = show(TextLine, { modelValue: '', field: 'host', label: 'Provider' }, form);
  expect(shown.get('label').attributes('for')).toBe('trunk-host');
  expect(shown.get('.faulty').text()).toContain('Type a host.');
});

test.each([
  [{ emptied: 'null' as const }, '', null],
  [{ emptied: 'undefined' as const }, '', undefined],
  [{}, '', ''],
  [{ figure: true }, '12', 12],
  [{ figure: true }, '1e', '1e'],
  [{ figure: true, emptied: 'null' as const }, '', null],
])('a text line %j takes %j as %j', async (more, typed, taken) => {
  const shown = show(TextLine, { modelValue: 'x', field: 'f', label: 'F', ...more });
  shown.findComponent({ name: 'VTextField' }).vm.$emit('update:modelValue', typed);
  await nextTick();
  expect(shown.emitted('update:modelValue')).toEqual([[taken]]);
});

test.each([
  [{}, '15', 15],
  [{}, 'soon', 'soon'],
  [{ any: true }, ' ', null],
  [{ words: true }, '12', '12'],
])('a field in a sentence %j takes %j as %j', async (more, typed, taken) => {
  const shown = show(SentenceField, { modelValue: 1, field: 'f', label: 'F', ...more });
  await shown.get('input').setValue(typed);
  expect(shown.emitted('update:modelValue')?.at(-1)).toEqual([taken]);
});

test('one that is taken late is not taken while it is typed', async () => {
  const shown = show(SentenceField, {
    modelValue: '8:00',
    field: 'from',
    label: 'From',
    words: true,
    late: true,
  });
  await shown.get('input').trigger('input');
  expect(shown.emitted('update:modelValue')).toBeUndefined();
  (shown.get('input').element as HTMLInputElement).value = '9:30';
  await shown.get('input').trigger('change');
  expect(shown.emitted('update:modelValue')).toEqual([['9:30']]);
});

test('what is wrong with a sentence stands under it, each fault once', () => {
  const form = within({ faults: { '/ring': 'From 5 to 120.', '/wrap': 'From 0 to 900.', '/other': 'No.' } });
  const shown = show(FormSentence, { fields: ['ring', 'wrap', 'fine'] }, form);
  expect(shown.findAll('[role="alert"]').map((line) => line.text())).toEqual([
    'From 5 to 120.',
    'From 0 to 900.',
  ]);
});

test('one of a few, or several of many, and who only reads changes neither', () => {
  const items = [{ value: 'a', title: 'A' }];
  const kind = (more: object) =>
    show(ChoiceLine, { modelValue: null, field: 'f', label: 'F', items, ...more });
  expect(kind({}).findComponent({ name: 'VSelect' }).exists()).toBe(true);
  expect(kind({ many: true }).findComponent({ name: 'VAutocomplete' }).exists()).toBe(true);
  const readonly = within({ readonly: true });
  const shown = show(ChoiceLine, { modelValue: null, field: 'f', label: 'F', items }, readonly);
  expect(shown.findComponent({ name: 'VSelect' }).attributes()).toHaveProperty('readonly');
});

test('things in an order: one is added at the end once, taken out, and none that is deactivated is offered', async () => {
  const items = ['a', 'b', 'c'].map((id) => ({ id, name: id.toUpperCase(), retired: id === 'c' }));
  const props = {
    modelValue: ['a'],
    items,
    nameOf: (id: string) => id.toUpperCase(),
    label: 'Add',
    empty: 'Any.',
  };
  const shown = show(OrderedField, props);
  const offered = shown.findComponent({ name: 'AddField' });
  expect(offered.props('items')).toEqual([{ value: 'b', title: 'B' }]);
  offered.vm.$emit('add', 'b');
  await shown.get('li button').trigger('click');
  expect(shown.emitted('update:modelValue')).toEqual([[['a', 'b']], [['b']]]);
});

test('outcomes begin as the usual ones, named as one’s own by a press', async () => {
  const shown = show(OutcomesField, { modelValue: [] });
  expect(shown.text()).toContain('The usual ones: ');
  await shown.get('button').trigger('click');
  const [[own]] = shown.emitted('update:modelValue') as [[{ name: string; then: string }[]]];
  expect(own.length).toBeGreaterThan(2);
  expect(own.every(({ name, then }) => name !== '' && ['done', 'tryAgain', 'optOut'].includes(then))).toBe(
    true,
  );
});

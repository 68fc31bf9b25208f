// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { show } from '../testing.ts';
import DestinationField from './DestinationField.vue';

const post = vi.hoisted(() => vi.fn());
vi.mock('../api/client.ts', async (original) => ({
  ...(await original<object>()),
  api: { POST: post, GET: vi.fn() },
  ask: (answer: unknown) => answer,
}));
beforeEach(() => post.mockReset().mockResolvedValue({ id: 'made' }));
afterEach(() => (document.body.innerHTML = ''));

const field = () =>
  show(DestinationField, { id: 'to', label: 'Leads to', modelValue: null, makeQueue: true });
const chooses = async (shown: ReturnType<typeof field>, value: string) => {
  shown.findAllComponents({ name: 'VAutocomplete' })[0]!.vm.$emit('update:modelValue', value);
  await flushPromises();
};

test('a queue made right here has its members from the start, and calls lead to it', async () => {
  const shown = field();
  await chooses(shown, 'make queue');
  await shown.get('input[aria-label="Name of the new queue"]').setValue('Night desk');
  shown.findAllComponents({ name: 'VAutocomplete' })[1]!.vm.$emit('update:modelValue', 'ann');
  await flushPromises();
  await shown
    .findAll('button')
    .find((button) => button.text() === 'Make it')!
    .trigger('click');
  await flushPromises();
  expect(post.mock.calls).toEqual([['/api/queues', { body: { name: 'Night desk', members: ['ann'] } }]]);
  expect(shown.emitted('update:modelValue')?.at(-1)).toEqual([{ kind: 'queue', id: 'made' }]);
});

test('nobody in particular, an end, and another thing are told apart', async () => {
  const shown = field();
  for (const value of ['end', 'queue q1', 'none']) await chooses(shown, value);
  expect(shown.emitted('update:modelValue')).toEqual([
    [{ kind: 'end' }],
    [{ kind: 'queue', id: 'q1' }],
    [null],
  ]);
});

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
beforeEach(() => void post.mockReset().mockResolvedValue({ id: 'made' }));
afterEach(() => (document.body.innerHTML = ''));

const field = () =>
  show(DestinationField, { id: 'to', label: 'Leads to', modelValue: null, makeQueue: true });
const chooses = async (shown: ReturnType<typeof field>, value: string) => {
  shown.findAllComponents({ name: 'VAutocomplete' })[0]!.vm.$emit('update:modelValue', value);
  await flushPromises();
};

const makes = async (kind: string, word: string, ...members: string[]) => {
  const shown = field();
  await chooses(shown, `make ${kind}`);
  await shown.get(`input[aria-label="Name of the new ${word}"]`).setValue('Night desk');
  for (const id of members)
    shown.findAllComponents({ name: 'VAutocomplete' })[1]!.vm.$emit('update:modelValue', id);
  await flushPromises();
  await shown
    .findAll('button')
    .find((button) => button.text() === 'Make it')!
    .trigger('click');
  await flushPromises();
  return shown;
};

test.each([
  ['queue', 'queue', '/api/queues', { members: ['ann'] }],
  ['ringGroup', 'ring group', '/api/ring-groups', { targets: [{ kind: 'person', id: 'ann' }] }],
])(
  'a %s made right here has its people from the start, and calls lead to it',
  async (kind, word, path, more) => {
    const shown = await makes(kind, word, 'ann');
    expect(post.mock.calls).toEqual([[path, { body: { name: 'Night desk', ...more } }]]);
    expect(shown.emitted('update:modelValue')?.at(-1)).toEqual([{ kind, id: 'made' }]);
  },
);

test.each([
  ['room', 'conference room', '/api/rooms'],
  ['fax', 'fax box', '/api/fax-boxes'],
])('a %s is made by its name alone', async (kind, word, path) => {
  await makes(kind, word);
  expect(post.mock.calls).toEqual([[path, { body: { name: 'Night desk' } }]]);
});

test('what cannot be made is said, what was typed stays, and calls lead where they led', async () => {
  const { ApiProblem } = await import('../api/client.ts');
  const said = 'There is a conference room Night desk already.';
  post.mockReset().mockImplementation(() => Promise.reject(new ApiProblem('invalid', said)));
  const shown = await makes('room', 'conference room');
  expect(shown.text()).toContain(said);
  expect(shown.emitted('update:modelValue')).toBeUndefined();
  const name = shown.get<HTMLInputElement>('input[aria-label="Name of the new conference room"]');
  expect(name.element.value).toBe('Night desk');
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

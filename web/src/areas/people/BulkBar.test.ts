// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { beforeEach, expect, test, vi } from 'vitest';
import { ApiProblem } from '../../api/client.ts';
import { show } from '../../testing.ts';
import BulkBar from './BulkBar.vue';
import { useFreshCodes } from './fresh-codes.ts';

const post = vi.hoisted(() => vi.fn());
const said = vi.hoisted(() => ({ say: vi.fn(), warn: vi.fn(), fail: vi.fn() }));
vi.mock('../../api/client.ts', async (original) => ({
  ...(await original<object>()),
  api: { POST: post, GET: vi.fn() },
  ask: (answer: unknown) => answer,
}));
vi.mock('../../shell/notices.ts', () => ({ useNotices: () => said }));
vi.mock('../../shell/session.ts', () => ({ useSession: () => ({ mayEdit: true, mayOperate: true }) }));
vi.mock('../../shell/set-up.ts', () => ({
  useSetUp: () => ({ teams: [], skills: [], queues: [], agentSettings: null, load: () => Promise.resolve() }),
}));

const ids = (count: number) => Array.from({ length: count }, (_, index) => `p${index}`);
beforeEach(() => {
  document.body.innerHTML = '';
  for (const each of [post, ...Object.values(said)]) each.mockReset();
});

async function does(count: number, what: string, value: string | null = null) {
  const shown = show(BulkBar, { ids: ids(count), fit: count });
  shown.findComponent({ name: 'VSelect' }).vm.$emit('update:modelValue', what);
  await flushPromises();
  if (value !== null) shown.findComponent({ name: 'VAutocomplete' }).vm.$emit('update:modelValue', value);
  await flushPromises();
  await shown.get('form').trigger('submit');
  await flushPromises();
  return shown;
}
const sizes = () => post.mock.calls.map(([path, { body }]) => [path, (body as { ids: string[] }).ids.length]);

test('more than the server takes in one go are changed in parts, and taken back together, the latest first', async () => {
  let batch = 0;
  post.mockImplementation(() => Promise.resolve({ batch: `b${++batch}` }));
  const shown = await does(4_500, 'role', 'agent');
  expect(sizes()).toEqual([2_000, 2_000, 500].map((size) => ['/api/people/bulk', size]));
  expect(said.say.mock.calls[0]![0]).toBe('4,500 people changed.');
  expect(shown.emitted('clear')).toHaveLength(1);
  post.mockClear();
  await (said.say.mock.calls[0]![1] as () => Promise<void>)();
  expect(post.mock.calls.map(([, { params }]) => (params as { path: { id: string } }).path.id)).toEqual([
    'b3',
    'b2',
    'b1',
  ]);
});

test('a part that is refused says how many were changed before, and these can be taken back', async () => {
  post
    .mockResolvedValueOnce({ batch: 'b1' })
    .mockRejectedValueOnce(new ApiProblem('notNow', 'Al is deactivated.'));
  const shown = await does(2_001, 'role', 'agent');
  expect(said.say.mock.calls[0]![0]).toBe('2,000 people changed, the others not: Al is deactivated.');
  expect(shown.emitted('clear')).toBeUndefined();
});

test('a change nobody got says why, once', async () => {
  const why = new ApiProblem('notNow', 'No.');
  post.mockRejectedValue(why);
  await does(3, 'role', 'agent');
  expect([said.fail.mock.calls, said.say.mock.calls]).toEqual([[[why]], []]);
});

test('codes by mail say who has no address, and are kept until they are hidden', async () => {
  const made = (id: string, sentTo: string | null) => ({
    ...{ id, name: id, login: id, extension: '1', signInCode: 'C', phone: null, sentTo },
  });
  post.mockResolvedValue([made('p0', 'a@ferries.example'), made('p1', null)]);
  await does(2, 'codesByMail');
  expect(post.mock.calls[0]).toEqual(['/api/people/codes', { body: { ids: ['p0', 'p1'], send: true } }]);
  expect(said.say.mock.calls[0]![0]).toContain('1 have no mail address');
  expect(useFreshCodes().people.map(({ id }) => id)).toEqual(['p0', 'p1']);
});

test('who could not be directed is named with the reason', async () => {
  post.mockResolvedValue({ done: 1, refused: [{ name: 'Al', why: 'No phone.' }] });
  await does(2, 'available');
  expect(said.warn.mock.calls[0]![0]).toBe('Done for 1; not for 1. Al: No phone.');
});

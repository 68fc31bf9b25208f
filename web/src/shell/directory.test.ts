import { createPinia, setActivePinia } from 'pinia';
import { reactive } from 'vue';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { useDirectory } from './directory.ts';

const readPage = vi.hoisted(() => vi.fn());
const live = reactive({ changedItems: [] as { kind: string; id: string }[], missed: 0 });
const session = reactive({ mayRead: true });
vi.mock('../api/pages.ts', () => ({ readPage }));
vi.mock('./live.ts', () => ({ useLive: () => live }));
vi.mock('./session.ts', () => ({ useSession: () => session }));

/** An id that is told by its last digits. */
const uid = (last: string) => `00000000-0000-7000-8000-${last.padStart(12, '0')}`;
const [a, b, old, room, number, stranger] = ['a', 'b', '1', '2', '3', '4'].map(uid) as [
  string,
  string,
  string,
  string,
  string,
  string,
];
const entry = (id: string, name: string, more: object = {}) => ({
  ...{ id, kind: 'person', name, extension: null, second: null, retired: false },
  ...more,
});
const answers = (...rows: object[]) => readPage.mockResolvedValueOnce({ rows, next: null, total: null });

let stores: ReturnType<typeof useDirectory>[] = [];
function directoryOfThis(): ReturnType<typeof useDirectory> {
  const store = useDirectory();
  stores.push(store);
  return store;
}
afterEach(() => {
  for (const store of stores) store.$dispose();
  stores = [];
});

beforeEach(() => {
  setActivePinia(createPinia());
  readPage.mockReset();
  session.mayRead = true;
});

test('all names one drawing needs are asked for at once, each once; what there is not is said', async () => {
  answers(entry(a, 'Ann'));
  const directory = directoryOfThis();
  expect([directory.nameOf(a), directory.nameOf(b), directory.nameOf(a)]).toEqual(['', '', '']);
  await expect.poll(() => directory.nameOf(a)).toBe('Ann');
  expect(readPage.mock.calls).toEqual([['/api/directory', { ids: [a, b] }]]);
  expect(directory.nameOf(b)).toBe('deactivated');
  expect(readPage).toHaveBeenCalledTimes(1);
});

test('a change by somebody has known names read again, and no others', async () => {
  answers(entry(a, 'Ann'));
  const directory = directoryOfThis();
  directory.nameOf(a);
  await expect.poll(() => directory.nameOf(a)).toBe('Ann');
  answers(entry(a, 'Anna'));
  live.changedItems = [
    { kind: 'person', id: stranger },
    { kind: 'person', id: a },
  ];
  await expect.poll(() => directory.nameOf(a)).toBe('Anna');
  expect(readPage.mock.calls.at(-1)).toEqual(['/api/directory', { ids: [a] }]);
});

test('what is not read yet is taken to be there; what is retired or of another kind is not', async () => {
  answers(entry(old, 'Old', { retired: true }), entry(room, 'Room', { kind: 'room' }));
  const directory = directoryOfThis();
  expect([directory.has('person', old), directory.has('person', room)]).toEqual([true, true]);
  await expect.poll(() => directory.has('person', old)).toBe(false);
  expect([directory.has('person', room), directory.has('room', room)]).toEqual([false, true]);
});

test('digits find numbers and extensions; an agent, who may not read, asks nothing', async () => {
  answers(entry(number, 'Main', { kind: 'number', second: '+12065550140' }));
  const directory = directoryOfThis();
  directory.ofDigits('+12065550140');
  await expect.poll(() => directory.ofDigits('+12065550140')?.name).toBe('Main');
  session.mayRead = false;
  directory.nameOf(stranger);
  await Promise.resolve();
  expect(readPage).toHaveBeenCalledTimes(1);
});

test('what cannot be an id or digits is not asked for: it would have all the others refused', async () => {
  answers(entry(a, 'Ann'));
  const directory = directoryOfThis();
  expect([directory.nameOf('no id'), directory.ofDigits('*12'), directory.ofDigits('anonymous')]).toEqual([
    '',
    null,
    null,
  ]);
  directory.nameOf(a);
  await expect.poll(() => directory.nameOf(a)).toBe('Ann');
  expect(readPage.mock.calls).toEqual([['/api/directory', { ids: [a] }]]);
});

// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { beforeEach, expect, test, vi } from 'vitest';
import { h, nextTick } from 'vue';
import { ApiProblem } from '../api/client.ts';
import { show } from '../testing.ts';
import type { ItemArea } from './item-area.ts';
import ItemSheet from './ItemSheet.vue';
import TextLine from './TextLine.vue';

const role = vi.hoisted(() => ({ mayEdit: true, mayOperate: true, mayRead: true }));
const said = vi.hoisted(() => ({ say: vi.fn(), fail: vi.fn(), warn: vi.fn(), saved: vi.fn() }));
vi.mock('../shell/session.ts', () => ({ useSession: () => role }));
vi.mock('../shell/notices.ts', () => ({ useNotices: () => said }));
vi.mock('../shell/live.ts', () => ({ useLive: () => ({ changedItems: [], missed: 0 }) }));
vi.mock('../shell/staying.ts', () => ({ useStaying: () => () => true, useLeaving: () => undefined }));

interface Draft {
  name: string;
  seconds: number;
  note: string | null;
}
interface View extends Draft {
  id: string;
  version: number;
  retired: boolean;
}
const stored: View = { id: 'i', version: 3, retired: false, name: 'Bells', seconds: 15, note: null };
const api = {
  kinds: ['bell'],
  list: vi.fn(),
  read: vi.fn(),
  create: vi.fn(),
  change: vi.fn(),
  retire: vi.fn(),
  reactivate: vi.fn(),
  publish: vi.fn(),
};
const area: ItemArea<Draft, View> = {
  api: api as never,
  page: '/codes',
  savedAs: 'bells',
  title: 'Bells',
  one: 'bell',
  second: 'Rings',
  fresh: () => ({ name: '', seconds: 15, note: null }),
  draftOf: ({ name, seconds, note }) => ({ name, seconds, note }),
  words: { name: 'Name', seconds: 'Rings for', note: 'Note' },
  show: (_field, value) => String(value),
  unused: 'Nothing uses it.',
};

beforeEach(() => {
  document.body.innerHTML = '';
  role.mayEdit = true;
  for (const each of [...Object.values(api), ...Object.values(said)])
    if (vi.isMockFunction(each)) each.mockReset();
  api.list.mockResolvedValue([stored]);
  api.read.mockResolvedValue({
    item: stored,
    usedBy: [{ id: 'n', kind: 'number', name: 'Main', how: 'leads here' }],
  });
  api.change.mockImplementation((_id: string, version: number, draft: Draft) =>
    Promise.resolve({ ...stored, ...draft, version: version + 1 }),
  );
});

const fields = {
  default: ({ draft }: { draft: Draft }) => [
    h(TextLine, {
      ...{ modelValue: draft.seconds, field: 'seconds', label: 'Rings for', figure: true },
      'onUpdate:modelValue': (value: unknown) => (draft.seconds = value as number),
    }),
    h(TextLine, {
      ...{ modelValue: draft.note, field: 'note', label: 'Note', emptied: 'null' },
      'onUpdate:modelValue': (value: unknown) => (draft.note = value as string | null),
    }),
  ],
};
const sheet = async (item: View | null = stored) => {
  const shown = show(ItemSheet, { area, item }, { slots: fields } as never);
  await flushPromises();
  return shown;
};
type Shown = Awaited<ReturnType<typeof sheet>>;
const line = (shown: Shown, id: string) =>
  shown.findAllComponents({ name: 'VTextField' }).find((each) => each.attributes('id') === `bell-${id}`)!;
const types = async (shown: Shown, id: string, text: string) => {
  line(shown, id).vm.$emit('update:modelValue', text);
  await nextTick();
};
const saves = async (shown: Shown) => {
  await shown.get('form').trigger('submit');
  await flushPromises();
};
const refusal = (code: string, more: object) =>
  new ApiProblem(code, 'Not taken.', { code, detail: 'Not taken.', errors: [], ...more } as never);

test('nothing is offered to be saved until something is typed; then it goes with the version it was read at', async () => {
  const shown = await sheet();
  expect(shown.text()).not.toContain('Save');
  await types(shown, 'seconds', '20');
  expect(shown.text()).toContain('Save');
  await saves(shown);
  expect(api.change.mock.calls).toEqual([['i', 3, { name: 'Bells', seconds: 20, note: null }]]);
  expect(said.saved).toHaveBeenCalledWith('Bells is saved.', 'i');
});

test('a figure is a number, what is emptied is none, and what is no figure goes as it was typed', async () => {
  const shown = await sheet({ ...stored, note: 'x' });
  await types(shown, 'seconds', 'soon');
  await types(shown, 'note', '');
  await saves(shown);
  expect(api.change.mock.calls[0]![2]).toEqual({ name: 'Bells', seconds: 'soon', note: null });
});

test('what is wrong stands at its field, and what was typed stays', async () => {
  api.change.mockRejectedValue(
    refusal('invalidInput', { errors: [{ path: '/seconds', detail: 'From 5 to 120.' }] }),
  );
  const shown = await sheet();
  await types(shown, 'seconds', '1');
  await saves(shown);
  expect(shown.get('.field.faulty').text()).toContain('From 5 to 120.');
  await saves(shown);
  expect(api.change.mock.calls.map(([, , draft]) => (draft as Draft).seconds)).toEqual([1, 1]);
});

test('somebody was faster: both versions are shown, ours goes over theirs with their version, or theirs is taken', async () => {
  const current = { ...stored, version: 9, seconds: 60 };
  api.change.mockRejectedValueOnce(refusal('changedMeanwhile', { current, by: 'Bo' }));
  const shown = await sheet();
  await types(shown, 'seconds', '20');
  await saves(shown);
  expect(shown.get('.conflict').text()).toContain('Bo changed this');
  expect(shown.findAll('.conflict tbody tr').map((row) => row.text().replace(/\s+/g, ' '))).toEqual([
    'Rings for2060',
  ]);
  const mine = shown.findAll('.conflict button').find((button) => button.text().includes('mine'))!;
  await mine.trigger('click');
  await flushPromises();
  expect(api.change.mock.calls.at(-1)).toEqual(['i', 9, { name: 'Bells', seconds: 20, note: null }]);
  expect(shown.find('.conflict').exists()).toBe(false);
});

test('a change by somebody else does not take what is being typed; untouched, the form follows', async () => {
  const shown = await sheet();
  await shown.setProps({ item: { ...stored, version: 4, name: 'Gongs' } } as never);
  await types(shown, 'seconds', '20');
  await shown.setProps({ item: { ...stored, version: 5, name: 'Drums' } } as never);
  await saves(shown);
  expect(api.change.mock.calls[0]).toEqual(['i', 4, { name: 'Gongs', seconds: 20, note: null }]);
});

test('one that is made is told, and opened', async () => {
  api.create.mockResolvedValue({ ...stored, id: 'new' });
  const shown = await sheet(null);
  expect(shown.text()).toContain('Make this bell');
  await types(shown, 'name', 'Bells');
  await saves(shown);
  expect(api.create.mock.calls).toEqual([[{ name: 'Bells', seconds: 15, note: null }]]);
  expect(shown.emitted('made')).toEqual([[{ ...stored, id: 'new' }]]);
});

test('who only reads is offered no change; nor is anybody of what is deactivated, but to bring it back', async () => {
  role.mayEdit = false;
  expect((await sheet()).text()).not.toContain('Deactivate');
  role.mayEdit = true;
  const gone = await sheet({ ...stored, retired: true });
  expect(gone.text()).toContain('Reactivate');
  expect(line(gone, 'name').attributes()).toHaveProperty('readonly');
  expect(line(await sheet(), 'name').attributes()).not.toHaveProperty('readonly', '');
});

test('deactivating says what leads to it when it is refused', async () => {
  const problem = refusal('inUse', {});
  api.retire.mockRejectedValue(problem);
  const shown = await sheet();
  await shown
    .findAll('button')
    .find((button) => button.text() === 'Deactivate')!
    .trigger('click');
  await flushPromises();
  expect([api.retire.mock.calls, said.fail.mock.calls]).toEqual([[['i', 3]], [[problem]]]);
});

test('its tabs count what uses it', async () => {
  const shown = await sheet();
  expect(shown.findAllComponents({ name: 'VTab' }).map((tab) => tab.attributes('text'))).toEqual([
    'Settings',
    'Used by 1',
    'History',
  ]);
});

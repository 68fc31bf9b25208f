// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { beforeEach, expect, test, vi } from 'vitest';
import { computed } from 'vue';
import type { ListView } from '@night-bell/core/contracts/list-views';
import { ApiProblem } from '../api/client.ts';
import { show } from '../testing.ts';
import type { ListLook } from './list-view.ts';
import ViewMenu from './ViewMenu.vue';

const role = vi.hoisted(() => ({ mayEdit: false, mayOperate: false }));
const said = vi.hoisted(() => ({ say: vi.fn(), fail: vi.fn() }));
vi.mock('../shell/session.ts', () => ({ useSession: () => role }));
vi.mock('../shell/notices.ts', () => ({ useNotices: () => said }));

const view = (id: string, more: Partial<ListView> = {}): ListView => ({
  ...{ id, name: id, query: '', columns: null, shared: false, mine: true, by: 'Me' },
  ...more,
});
beforeEach(() => {
  document.body.innerHTML = '';
  Object.assign(role, { mayEdit: false, mayOperate: false });
  said.say.mockReset();
});

function menu(views: ListView[] = [], missing: string[] = []) {
  const look = {
    columns: computed(() => [{ key: 'team', title: 'Team', shown: true }]),
    views: computed(() => views),
    current: computed(() => views[0] ?? null),
    missing: computed(() => missing),
    ...{ showColumn: vi.fn(), usualColumns: vi.fn(), take: vi.fn(), drop: vi.fn(() => Promise.resolve()) },
    keep: vi.fn(() => Promise.resolve()),
  } satisfies ListLook;
  return { look, shown: show(ViewMenu, { look }) };
}
async function keeps({ shown }: ReturnType<typeof menu>, name: string) {
  shown.findComponent({ name: 'VTextField' }).vm.$emit('update:modelValue', name);
  await flushPromises();
  await shown.get('form').trigger('submit');
  await flushPromises();
}

test('a view that asks for a column that is gone says so', () => {
  expect(menu([], ['shoe']).shown.get('[role="alert"]').text()).toContain(
    'a column that is no longer here: shoe',
  );
  expect(menu([]).shown.find('[role="alert"]').exists()).toBe(false);
});

test('a view is kept under what was typed, and the name is empty for the next', async () => {
  const opened = menu();
  await keeps(opened, 'Mine');
  expect(opened.look.keep.mock.calls).toEqual([['Mine', false]]);
  expect(said.say).toHaveBeenCalledWith('Mine is kept. It is found here.');
  expect(opened.shown.findComponent({ name: 'VTextField' }).attributes('modelvalue')).toBe('');
});

test('what is refused is said at its place, and the name stays', async () => {
  const opened = menu();
  opened.look.keep.mockRejectedValue(new ApiProblem('notNow', 'You keep 200 views already.'));
  await keeps(opened, 'One more');
  expect(opened.shown.get('.fault-text').text()).toContain('You keep 200 views already.');
  expect(opened.shown.findComponent({ name: 'VTextField' }).attributes('modelvalue')).toBe('One more');
});

test('one deletes one’s own, an administrator also what everybody sees; others’ say whose they are', () => {
  const theirs = view('theirs', { mine: false, shared: true, by: 'Bo' });
  const deletes = () =>
    menu([view('own'), theirs])
      .shown.findAll('button[aria-label^="Delete"]')
      .map((button) => button.attributes('aria-label'));
  expect(deletes()).toEqual(['Delete the view own']);
  role.mayEdit = true;
  expect(deletes()).toEqual(['Delete the view own', 'Delete the view theirs']);
  expect(menu([theirs]).shown.text()).toContain('from Bo');
});

test('only who runs the floor is offered to keep a view for everybody', () => {
  const boxes = () =>
    menu()
      .shown.findAllComponents({ name: 'VCheckbox' })
      .map((box) => box.attributes('label'));
  expect(boxes()).toEqual(['Team']);
  role.mayOperate = true;
  expect(boxes()).toEqual(['Team', 'for everybody']);
});

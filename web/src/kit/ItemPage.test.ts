// @vitest-environment happy-dom
import { VueQueryPlugin } from '@tanstack/vue-query';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia } from 'pinia';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { h } from 'vue';
import { createMemoryHistory, createRouter } from 'vue-router';
import { stubs } from '../testing.ts';
import type { ItemArea } from './item-area.ts';
import ItemPage from './ItemPage.vue';

const role = vi.hoisted(() => ({ mayEdit: true, mayOperate: true, mayRead: true }));
const live = vi.hoisted(() => ({ changedItems: [] as { kind: string; id: string }[], missed: 0 }));
vi.mock('../shell/session.ts', () => ({ useSession: () => role }));
vi.mock('../shell/live.ts', () => ({ useLive: () => live }));
vi.mock('../shell/staying.ts', () => ({ useStaying: () => () => true }));

// Nothing is laid out here: what is looked through is said to be as high as a window.
for (const height of ['clientHeight', 'offsetHeight'])
  Object.defineProperty(HTMLElement.prototype, height, { value: 600 });

/** A plain area of its own: no more is needed for its page. */
// The area begins.
interface Buoy {
  id: string;
  version: number;
  retired: boolean;
  name: string;
  metres: number;
}
const buoy = (id: string, name: string, more: Partial<Buoy> = {}): Buoy => ({
  ...{ id, name, version: 1, retired: false, metres: 5 },
  ...more,
});
const api = { kinds: ['buoy'], list: vi.fn(), read: vi.fn(), retire: vi.fn(), reactivate: vi.fn() };
const area = {
  ...{ api, page: '/codes', savedAs: 'codes', title: 'Buoys', one: 'buoy', second: 'Afloat' },
  fresh: () => ({ name: '', metres: 5 }),
  draftOf: ({ name, metres }: Buoy) => ({ name, metres }),
  words: { name: 'Name', metres: 'Depth' },
  show: String,
  finds: ({ metres }: Buoy) => `${metres} m`,
} as unknown as ItemArea<{ name: string; metres: number }, Buoy>;
const columns = [
  { key: 'name', title: 'Name', sort: (row: Buoy) => row.name },
  { key: 'metres', title: 'Depth', roomy: true as const },
];
// The area ends.

beforeEach(() => {
  role.mayEdit = true;
  for (const each of Object.values(api)) if (vi.isMockFunction(each)) each.mockReset();
  api.list.mockResolvedValue([
    buoy('a', 'Ash'),
    buoy('b', 'Birch', { metres: 9 }),
    buoy('c', 'Cedar', { retired: true }),
  ]);
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ columns: null, views: [] })));
});
afterEach(() => {
  vi.unstubAllGlobals();
  document.body.innerHTML = '';
});

async function page(address = '/codes') {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:page/:id?', component: { template: '' } }],
  });
  await router.push(address);
  const shown = mount(ItemPage as never, {
    props: {
      ...{ area, columns, empty: 'No buoy yet.', id: router.currentRoute.value.params.id as string },
      sentence: (inUse: Buoy[]) => `${inUse.length} afloat`,
    } as never,
    slots: {
      sheet: ({ item }: { item: Buoy | null }) => h('aside', { class: 'sheet' }, item?.name ?? 'new'),
    } as never,
    global: { plugins: [createPinia(), VueQueryPlugin, router], stubs },
    attachTo: document.body,
  });
  await flushPromises();
  return { shown, router };
}
type Shown = Awaited<ReturnType<typeof page>>['shown'];
const names = (shown: Shown) =>
  shown.findAll('tbody td:nth-child(2)').map((cell) => cell.text().replace(/\s+/g, ' ').trim());

test('those in use are listed, and counted in the sentence; the address brings the others', async () => {
  const { shown } = await page();
  expect(names(shown)).toEqual(['Ash', 'Birch']);
  expect(shown.get('header p').text()).toBe('2 afloat');
  expect(names((await page('/codes?deactivated=yes')).shown)).toEqual(['Ash', 'Birch', 'Cedar deactivated']);
});

test('found by the name or by what else the area says; in vain, it says so and shows all again', async () => {
  expect(names((await page('/codes?find=BIR')).shown)).toEqual(['Birch']);
  expect(names((await page('/codes?find=9 m')).shown)).toEqual(['Birch']);
  const { shown, router } = await page('/codes?find=oak');
  expect(shown.text()).toContain('Nothing here is called oak.');
  await shown
    .findAll('button')
    .find((button) => button.text() === 'Show all')!
    .trigger('click');
  await flushPromises();
  expect(router.currentRoute.value.query).toEqual({});
});

test('a cell without words of its own shows its field; beside a sheet there is room for what counts', async () => {
  const { shown } = await page();
  expect(
    shown
      .findAll('thead th')
      .map((head) => head.text())
      .filter(Boolean),
  ).toContain('Depth');
  expect(shown.findAll('tbody tr')[1]!.text()).toContain('9');
  const beside = (await page('/codes/a')).shown;
  expect(beside.get('.sheet').text()).toBe('Ash');
  expect(beside.findAll('thead th').map((head) => head.text())).not.toContain('Depth');
});

test('nothing yet is said with the way to begin, which who only reads is not offered', async () => {
  api.list.mockResolvedValue([]);
  const { shown } = await page();
  expect(shown.text()).toContain('No buoy yet.');
  const offers = (of: Shown) =>
    of.findAll('button').filter((button) => button.text().startsWith('New buoy')).length;
  expect(offers(shown)).toBe(2);
  role.mayEdit = false;
  expect(offers((await page()).shown)).toBe(0);
});

test('a list that could not be read is read again on a press', async () => {
  api.list.mockRejectedValue(new Error('away'));
  const { shown } = await page();
  await expect.poll(() => shown.text()).toContain('The list could not be read.');
  api.list.mockResolvedValue([buoy('a', 'Ash')]);
  await shown
    .findAll('button')
    .find((button) => button.text() === 'Read it again')!
    .trigger('click');
  await expect.poll(() => names(shown)).toEqual(['Ash']);
});

test('marked rows are deactivated together; whoever only reads marks none', async () => {
  api.retire.mockImplementation((id: string) => Promise.resolve(buoy(id, id, { retired: true, version: 2 })));
  const { shown } = await page();
  await shown.get('thead input[type=checkbox]').setValue(true);
  expect(shown.get('.bulk').text()).toContain('2 marked');
  await shown
    .findAll('.bulk button')
    .find((button) => button.text() === 'Deactivate')!
    .trigger('click');
  await flushPromises();
  expect(api.retire.mock.calls).toEqual([
    ['a', 1],
    ['b', 1],
  ]);
  expect([names(shown), shown.find('.bulk').exists()]).toEqual([[], false]);
  role.mayEdit = false;
  expect((await page()).shown.find('thead input[type=checkbox]').exists()).toBe(false);
});

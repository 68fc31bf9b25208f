// @vitest-environment happy-dom
import { VueQueryPlugin } from '@tanstack/vue-query';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { defineComponent } from 'vue';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import type { ListView, WaysToLook } from '@night-bell/core/contracts/list-views';
import { useSession } from '../shell/session.ts';
import { useListLook } from './list-view.ts';

const all = [
  { key: 'name', title: 'Name' },
  { key: 'team', title: 'Team' },
  { key: 'phone', title: 'Phone' },
  { key: 'note', title: '' },
];
const view = (more: Partial<ListView>): ListView => ({
  ...{ id: 'v', name: 'V', query: '', columns: null, shared: false, mine: true, by: 'Me' },
  ...more,
});

let kept: WaysToLook;
let sent: { method: string; path: string; body: unknown }[];
let router: Router;

beforeEach(() => {
  kept = { columns: null, views: [] };
  sent = [];
  vi.stubGlobal('fetch', (path: string, { method = 'GET', body }: { method?: string; body?: string }) => {
    sent.push({ method, path, body: body === undefined ? null : JSON.parse(body) });
    return Promise.resolve(method === 'PUT' ? new Response(null, { status: 204 }) : Response.json(kept));
  });
});
afterEach(() => vi.unstubAllGlobals());

async function look(address = '/people') {
  const pinia = createPinia();
  setActivePinia(pinia);
  vi.spyOn(useSession(), 'mayRead', 'get').mockReturnValue(true);
  router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:page', component: { template: '' } }],
  });
  await router.push(address);
  let made!: ReturnType<typeof useListLook<never>>;
  const Host = defineComponent({
    setup: () => {
      made = useListLook<never>('people', () => all);
      return () => null;
    },
  });
  mount(Host, { global: { plugins: [pinia, VueQueryPlugin, router] } });
  await flushPromises();
  return made;
}
const keys = (of: Awaited<ReturnType<typeof look>>) => of.shown.value.map(({ key }) => key);

test('all columns are shown until some are chosen; the name and what has no title always are', async () => {
  const made = await look();
  expect(keys(made)).toEqual(['name', 'team', 'phone', 'note']);
  await made.showColumn('team', false);
  expect(keys(made)).toEqual(['name', 'phone', 'note']);
  expect(sent.at(-1)).toMatchObject({ method: 'PUT', body: { columns: ['phone'] } });
  await made.showColumn('team', true);
  expect(sent.at(-1)).toMatchObject({ method: 'PUT', body: { columns: null } });
});

test('columns that the address names come before those one chose, and those it does not have are said', async () => {
  kept = { columns: ['team'], views: [] };
  const made = await look('/people?columns=phone,gone');
  expect(keys(made)).toEqual(['name', 'phone', 'note']);
  expect(made.missing.value).toEqual(['gone']);
});

test('a view taken is the address: what it narrows to, its order, its columns; it is known again by them', async () => {
  kept.views = [view({ id: 'a', query: 'sort=-name&team=t', columns: ['team'] }), view({ id: 'b' })];
  const made = await look();
  expect(made.current.value?.id).toBe('b');
  made.take(kept.views[0]!);
  await flushPromises();
  expect(router.currentRoute.value.query).toEqual({ sort: '-name', team: 't', columns: 'team' });
  expect([made.current.value?.id, keys(made)]).toEqual(['a', ['name', 'team', 'note']]);
});

test('what is kept is how the list is looked at now, also columns one chose before', async () => {
  kept = { columns: ['team'], views: [] };
  const made = await look('/people?team=t&find=');
  await made.keep('Of a team', true);
  expect(sent.at(-1)).toMatchObject({
    method: 'POST',
    body: { list: 'people', name: 'Of a team', query: 'team=t', columns: ['team'], shared: true },
  });
});

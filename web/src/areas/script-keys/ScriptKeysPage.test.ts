// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { afterEach, expect, test, vi } from 'vitest';
import type { ScriptKeyView } from '@night-bell/core/contracts/script-keys';
import * as items from '../../api/items.ts';
import { useSession } from '../../shell/session.ts';
import { show } from '../../testing.ts';
import ScriptKeysPage from './ScriptKeysPage.vue';
import { scriptKeyApi } from './words.ts';

vi.mock('vue-router', async (original) => ({
  ...(await original<object>()),
  useRoute: () => ({ query: {}, params: {} }),
  useRouter: () => ({ push: vi.fn(), replace: vi.fn() }),
}));
const key = (more: Partial<ScriptKeyView> = {}): ScriptKeyView => ({
  ...{ id: 'k', name: 'Nightly report', version: 1, retired: false, role: 'auditor', areas: ['Calls'] },
  ...{ hasSecret: false, begins: null, madeBy: null, lastUsedAt: null, ...more },
});
afterEach(() => (document.body.innerHTML = ''));

async function shown(item: ScriptKeyView) {
  const send = vi.spyOn(items, 'send');
  send.mockImplementation((_method, path) =>
    Promise.resolve((path.endsWith('/secret') ? { secret: 'bell_told_once' } : ['Calls', 'People']) as never),
  );
  vi.spyOn(scriptKeyApi, 'list').mockResolvedValue([item]);
  vi.spyOn(scriptKeyApi, 'read').mockResolvedValue({ item, usedBy: [] });
  const page = show(ScriptKeysPage, { id: item.id });
  useSession().view = { person: { role: 'administrator' }, installation: { timeZone: 'UTC' } } as never;
  await flushPromises();
  return { page, send };
}

test('a secret is made in the sheet, shown this once, and how to send it is said', async () => {
  const { page, send } = await shown(key());
  expect(page.text()).toContain('the key opens nothing');
  await page
    .findAll('button')
    .find((each) => each.text() === 'Make the secret')!
    .trigger('click');
  await flushPromises();
  expect(send).toHaveBeenCalledWith('POST', '/api/script-keys/k/secret', { body: {} });
  expect(page.text()).toContain('bell_told_once');
  expect(page.text()).toContain('Authorization: Bearer');
});

test('of one that has a secret only its beginning is known', async () => {
  const { page } = await shown(key({ hasSecret: true, begins: 'bell_abcde', madeBy: 'Rowan Tseng' }));
  expect(page.text()).toContain('bell_abcde');
  expect(page.text()).toContain('under the name of Rowan Tseng');
  expect(page.text()).toContain('Make another, end this one');
});

// @vitest-environment happy-dom
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { MessageView } from '@night-bell/core/contracts/voicemail-boxes';
import { show } from '../../testing.ts';
import MessageList from './MessageList.vue';

const message = (id: string, change: Partial<MessageView> = {}): MessageView => ({
  ...{
    id,
    boxId: 'b',
    callId: `call ${id}`,
    from: '+13605550117',
    callerName: 'Orla Fenn',
    at: 1_795_000_000_000,
  },
  ...{
    seconds: 31,
    state: 'new',
    sound: null,
    heardBy: null,
    heardAt: null,
    forwardedBy: null,
    deletedAt: null,
  },
  ...change,
});
let messages: MessageView[];
let sent: { path: string; body: unknown }[];

/** The server, as far as this list asks it. */
beforeEach(() => {
  sent = [];
  vi.stubGlobal(
    'fetch',
    (path: string, { method = 'GET', body }: { method?: string; body?: string } = {}) => {
      if (method !== 'GET') {
        sent.push({ path, body: JSON.parse(body ?? '{}') });
        return Promise.resolve(new Response(null, { status: 204 }));
      }
      const answer = path.endsWith('/messages') ? messages : [];
      return Promise.resolve(
        new Response(JSON.stringify(answer), { headers: { 'content-type': 'application/json' } }),
      );
    },
  );
});
let shown: VueWrapper | null = null;
afterEach(() => {
  shown?.unmount();
  vi.unstubAllGlobals();
  document.body.innerHTML = '';
});

async function list(): Promise<VueWrapper> {
  shown = show(MessageList, { boxId: 'b', keepDays: 30 }) as VueWrapper;
  await flushPromises();
  return shown;
}
const rows = (of: VueWrapper) => of.findAll('[role=option]');

test('shows who left what, counts the new ones, and names withheld callers', async () => {
  messages = [message('1'), message('2', { state: 'heard', from: '', callerName: null })];
  const of = await list();
  expect(of.find('header').text()).toContain('1 new of 2, kept 30 days');
  expect(rows(of).map((row) => row.find('.who').text())).toEqual(['Orla Fenn', 'Withheld number']);
  expect(rows(of)[0]!.find('.who').classes()).toContain('fresh');
});

test('opens in place, says when its sound has not come, and keeps by a press', async () => {
  messages = [message('1')];
  const of = await list();
  await rows(of)[0]!.trigger('click');
  expect(of.text()).toContain('Its sound has not come.');
  expect(of.text()).toContain('Nobody has heard it yet.');
  await of
    .findAll('button')
    .find((button) => button.text().startsWith('Keep'))!
    .trigger('click');
  await flushPromises();
  expect(sent).toEqual([{ path: '/api/messages/mark', body: { ids: ['1'], state: 'kept' } }]);
});

test('deletes without asking, goes on to the next, and brings back', async () => {
  messages = [message('1'), message('2')];
  const of = await list();
  await rows(of)[0]!.trigger('click');
  messages = [message('1', { deletedAt: 1 }), message('2')];
  await of
    .findAll('button')
    .find((button) => button.text() === 'Delete')!
    .trigger('click');
  await flushPromises();
  expect(rows(of)).toHaveLength(1);
  expect(rows(of)[0]!.attributes('aria-selected')).toBe('true');
  expect(of.find('.deleted').text()).toContain('1 message deleted');
  await of.find('.deleted button').trigger('click');
  await flushPromises();
  expect(sent).toEqual([
    { path: '/api/messages/delete', body: { ids: ['1'], deleted: true } },
    { path: '/api/messages/delete', body: { ids: ['1'], deleted: false } },
  ]);
});

test('arrows go through the list', async () => {
  messages = [message('1'), message('2'), message('3')];
  const of = await list();
  const box = of.find('[role=listbox]');
  await box.trigger('keydown', { key: 'ArrowDown' });
  await box.trigger('keydown', { key: 'ArrowDown' });
  expect(rows(of).map((row) => row.attributes('aria-selected'))).toEqual(['false', 'true', 'false']);
});

test('without messages says so', async () => {
  messages = [];
  expect((await list()).text()).toContain('No messages. The next one appears here by itself.');
});

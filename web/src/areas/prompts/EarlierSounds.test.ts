// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { EarlierSound, PromptView } from '@night-bell/core/contracts/prompts';
import * as items from '../../api/items.ts';
import { show } from '../../testing.ts';
import EarlierSounds from './EarlierSounds.vue';

const sound = (id: string, words: string): EarlierSound => ({
  ...{ id, words, origin: 'spoken', seconds: 3, peaks: [10, 40], at: 1_795_000_000_000 },
});
const item = {
  ...{ id: 'prompt', name: 'Welcome', version: 7, retired: false },
  ...{ sound: { id: 'now' }, heard: { id: 'live' } },
} as PromptView;
const send = vi.spyOn(items, 'send');
beforeEach(() => {
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json([])));
  send.mockReset();
  send.mockResolvedValue([
    sound('now', 'Now'),
    sound('live', 'Live'),
    sound('old', 'We sail at six.'),
  ] as never);
});
afterEach(() => {
  document.body.innerHTML = '';
  vi.unstubAllGlobals();
});

test('shows what the prompt sounded like before, without what it sounds like now or what callers hear', async () => {
  const page = show(EarlierSounds, { item, changed: false });
  await flushPromises();
  expect(page.get('summary').text()).toBe('1 earlier sound');
  expect(page.findAll('.earlier').map((each) => each.text())).toEqual([
    expect.stringContaining('We sail at six.'),
  ]);
  // Who may not edit listens only.
  expect(page.text()).not.toContain('Take it again');
});

test('nothing is shown of a prompt that never sounded otherwise', async () => {
  send.mockResolvedValue([sound('now', 'Now')] as never);
  const page = show(EarlierSounds, { item, changed: false });
  await flushPromises();
  expect(page.find('details').exists()).toBe(false);
});

test('its sounds are read again when it has another one', async () => {
  const page = show(EarlierSounds, { item, changed: false });
  await flushPromises();
  await page.setProps({ item: { ...item, sound: { id: 'newer' } } as never });
  await flushPromises();
  expect(send).toHaveBeenCalledTimes(2);
  expect(page.get('summary').text()).toBe('2 earlier sounds');
});

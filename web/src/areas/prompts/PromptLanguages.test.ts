// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import { ApiProblem } from '../../api/client.ts';
import { useSession } from '../../shell/session.ts';
import { show } from '../../testing.ts';
import PromptLanguages from './PromptLanguages.vue';
import { promptApi } from './words.ts';
import * as words from './words.ts';

const prompt = (id: string, more: Partial<PromptView> = {}): PromptView => ({
  ...{ id, name: 'Welcome', kind: 'greeting', language: 'en', words: 'Welcome aboard.', personId: null },
  ...{ translationOf: null, version: 1, retired: false, sound: null, heard: null, publishedWords: null },
  ...{ publishedAt: null, seconds: 2, uses: 1, ...more },
});
const french = prompt('fr', {
  ...{ name: 'Welcome, French', language: 'fr', words: 'Bienvenue.', translationOf: 'en' },
});
const create = vi.spyOn(promptApi, 'create');
const speak = vi.spyOn(words, 'speakPrompt');

/** For somebody who may edit, with these prompts in the library. */
async function shown(item: PromptView, library: PromptView[]) {
  vi.spyOn(promptApi, 'list').mockResolvedValue(library);
  const page = show(PromptLanguages, { item });
  useSession().view = { person: { role: 'administrator' } } as never;
  await flushPromises();
  return page;
}
beforeEach(() => {
  create.mockReset();
  speak.mockReset();
});
afterEach(() => {
  document.body.innerHTML = '';
});

test('shows what there is of it in other languages, and offers those there are not', async () => {
  const page = await shown(prompt('en'), [prompt('en'), french, prompt('other', { name: 'Other' })]);
  expect(page.get('.translation').text()).toContain('French');
  expect(page.get('.translation').text()).toContain('Bienvenue.');
  const offered = page.findAll('option').map((each) => each.text());
  expect(offered).toContain('German');
  expect(offered).not.toContain('French');
  expect(offered).not.toContain('English');
});

test('another is written beside it, with everything but language and words from it, and spoken', async () => {
  create.mockResolvedValue(prompt('de', { language: 'de' }));
  speak.mockResolvedValue(prompt('de', { language: 'de' }));
  const page = await shown(prompt('en'), [prompt('en')]);
  expect(page.text()).toContain('None.');
  await page.get('select').setValue('de');
  page.findComponent({ name: 'VTextarea' }).vm.$emit('update:modelValue', 'Willkommen.');
  await page.get('form').trigger('submit');
  await flushPromises();
  expect(create).toHaveBeenCalledWith({
    ...{ name: 'Welcome, German', kind: 'greeting', language: 'de', words: 'Willkommen.' },
    ...{ personId: null, translationOf: 'en' },
  });
  expect(speak).toHaveBeenCalledWith('de');
});

test('what the server refuses stands there, and the words are kept', async () => {
  create.mockRejectedValue(new ApiProblem('notNow', 'That name is taken.'));
  const page = await shown(prompt('en'), [prompt('en')]);
  await page.get('select').setValue('es');
  page.findComponent({ name: 'VTextarea' }).vm.$emit('update:modelValue', 'Bienvenidos.');
  await page.get('form').trigger('submit');
  await flushPromises();
  expect(page.get('[role="alert"]').text()).toContain('That name is taken.');
  expect((page.get('select').element as HTMLSelectElement).value).toBe('es');
  expect(speak).not.toHaveBeenCalled();
});

test('a translation says whom it is heard instead of', async () => {
  const page = await shown(french, [prompt('en'), french]);
  expect(page.text()).toContain('Instead of');
  expect(page.text()).toContain('Welcome aboard.');
  expect(page.find('form').exists()).toBe(false);
});

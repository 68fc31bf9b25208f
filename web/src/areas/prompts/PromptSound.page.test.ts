// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import PromptSound from './PromptSound.vue';

let page: OpenPage;
afterEach(() => page.close());

const prompt = (more: object = {}): PromptView =>
  ({
    ...{ id: 'p', version: 1, retired: false, name: 'Welcome', kind: 'announcement', words: 'Good morning.' },
    ...{ language: 'en', sound: null, heard: null, personId: null, publishedWords: null },
    ...more,
  }) as unknown as PromptView;
const sound = (more: object = {}) => ({
  ...{ id: 's', origin: 'spoken', loudness: -21.4, seconds: 2, peaks: [10], current: true, clipping: false },
  ...more,
});
const open = async (item: PromptView, answers: Answers = {}, changed = false, role = 'administrator') => {
  page = await openPage(
    PromptSound,
    { 'GET /api/prompts': [item], 'GET /api/prompts/p/sounds': [], ...answers },
    { props: { item, changed }, role },
  );
};
const button = (words: string) => page.shown.findAll('button').find((each) => each.text() === words)!;
async function bring(file: File): Promise<void> {
  const input = page.shown.find('input[type=file]');
  Object.defineProperty(input.element, 'files', { value: [file], configurable: true });
  await input.trigger('change');
  await page.settled();
}

test('without a sound callers hear the default of its kind, which can be heard here', async () => {
  await open(prompt());
  expect(page.text()).toContain('None yet. Callers hear the default of its kind');
});

test('what is wrong with a sound is said: other words, or too loud', async () => {
  await open(prompt({ sound: sound({ current: false, clipping: true }) }));
  expect(page.text()).toContain('It says other words than are written.');
  expect(page.text()).toContain('Too loud: it is cut off in places.');
  expect(page.text()).toContain('-21 dBFS');
});

test('words that are not saved are not spoken, nor are none', async () => {
  await open(prompt(), {}, true);
  expect(button('Speak').attributes('disabled')).toBeDefined();
  expect(page.text()).toContain('Save the words first.');
  page.close();
  await open(prompt({ words: ' ' }));
  expect(button('Speak').attributes('disabled')).toBeDefined();
});

test('a file that is too large is refused before it is sent, with what to do', async () => {
  await open(prompt());
  const file = new File(['x'], 'long.wav', { type: 'audio/wav' });
  Object.defineProperty(file, 'size', { value: 5 * 1024 * 1024 });
  await bring(file);
  expect(page.text()).toContain('A file of at most 4 MB.');
  expect(page.sent).toEqual([]);
});

test('a file is brought; one that is no sound is refused with the reason', async () => {
  let refuse = true;
  await open(prompt(), {
    'POST /api/prompts/p/sound': () =>
      refuse
        ? new Refusal(422, 'invalidInput', 'This is no WAV, MP3 or Ogg file.')
        : prompt({ sound: sound() }),
  });
  const file = () => new File(['RIFF'], 'welcome.wav', { type: 'audio/wav' });
  await bring(file());
  await expect.poll(() => page.text()).toContain('This is no WAV, MP3 or Ogg file.');
  refuse = false;
  await bring(file());
  await expect.poll(() => page.said()).toContain('welcome.wav is the sound of Welcome once you publish.');
  expect(page.sent.at(-1)!.body).toMatchObject({ file: btoa('RIFF'), recorded: false });
});

test('who may not edit listens only', async () => {
  await open(prompt({ sound: sound() }), {}, false, 'auditor');
  expect(page.shown.findAll('button').map((each) => each.text())).not.toContain('Speak');
});

// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import * as items from '../../api/items.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { show } from '../../testing.ts';
import SpeakMany from './SpeakMany.vue';
import { promptApi } from './words.ts';

const prompt = (id: string, more: Partial<PromptView> = {}) =>
  ({ id, name: id, retired: false, words: 'Welcome.', sound: null, ...more }) as PromptView;
const job = (more: Partial<JobView> = {}) =>
  ({
    ...{ id: 'j', kind: 'speakPrompts', title: 'Speaking 2 prompts', state: 'running', done: 0, total: 2 },
    ...{ outcome: null, doing: null, leftOut: [], endedAt: null, ...more },
  }) as JobView;
const send = vi.spyOn(items, 'send');
let answers: Record<string, unknown>;

beforeEach(() => {
  answers = { 'GET /api/jobs': [] };
  send.mockReset();
  send.mockImplementation((method, path) => Promise.resolve(answers[`${method} ${path}`] as never));
});
afterEach(() => (document.body.innerHTML = ''));

async function shown(library: PromptView[]) {
  vi.spyOn(promptApi, 'list').mockResolvedValue(library);
  const page = show(SpeakMany, {});
  useSession().view = { person: { role: 'administrator' } } as never;
  await flushPromises();
  return page;
}
const press = (page: ReturnType<typeof show>, words: string) =>
  page
    .findAll('button')
    .find((each) => each.text() === words)!
    .trigger('click');

test('offers nothing when every prompt says what is written, or has no words yet', async () => {
  const spoken = prompt('spoken', { sound: { current: true } as never });
  const page = await shown([spoken, prompt('empty', { words: ' ' }), prompt('old', { retired: true })]);
  expect(page.text()).toBe('');
});

test('speaks all that need it as a job, shows how far it is, and what became of it', async () => {
  answers['POST /api/prompts/speak'] = job();
  const page = await shown([prompt('one'), prompt('two', { sound: { current: false } as never })]);
  expect(page.text()).toContain('2 prompts have no sound of what is written.');
  await press(page, 'Speak and publish');
  await flushPromises();
  expect(send).toHaveBeenCalledWith('POST', '/api/prompts/speak', { body: { publish: true } });
  expect(page.get('[role="progressbar"]').attributes('aria-valuenow')).toBe('0');
  // Nothing more is offered meanwhile.
  expect(page.text()).not.toContain('Speak and publish');
  answers['GET /api/jobs/j'] = job({ state: 'done', done: 2, outcome: '2 prompts spoken.', endedAt: 5 });
  useLive().changedItems = [{ kind: 'job', id: 'j' }];
  await flushPromises();
  expect(page.text()).toContain('2 prompts spoken.');
});

test('one that is going on when the page opens is found, and stopped from here', async () => {
  answers['GET /api/jobs'] = [job({ id: 'over', endedAt: 1 }), job({ done: 1 })];
  answers['POST /api/jobs/j/stop'] = job({ state: 'stopped', outcome: 'Stopped.', endedAt: 3 });
  const page = await shown([prompt('one')]);
  expect(page.text()).toContain('1 of 2');
  await press(page, 'Stop');
  await flushPromises();
  expect(page.text()).toContain('Stopped.');
});

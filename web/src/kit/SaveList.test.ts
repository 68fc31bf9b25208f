// @vitest-environment happy-dom
import { reactive } from 'vue';
import { beforeEach, expect, test, vi } from 'vitest';
import { show } from '../testing.ts';
import SaveList from './SaveList.vue';

const send = vi.hoisted(() => vi.fn());
const live = reactive({ changedItems: [] as { kind: string; id: string }[], missed: 0 });
const said = vi.hoisted(() => ({ say: vi.fn(), warn: vi.fn(), fail: vi.fn() }));
vi.mock('../api/items.ts', () => ({ send }));
vi.mock('../shell/live.ts', () => ({ useLive: () => live }));
vi.mock('../shell/notices.ts', () => ({ useNotices: () => said }));

const job = (more: object) => ({
  id: 'j',
  state: 'running',
  done: 0,
  total: 100,
  endedAt: null,
  outcome: null,
  file: null,
  ...more,
});
const press = (page: ReturnType<typeof show>, title: string) =>
  page
    .findAllComponents({ name: 'VListItem' })
    .find((item) => item.attributes('title') === title)!
    .trigger('click');

beforeEach(() => {
  send.mockReset();
  for (const each of Object.values(said)) each.mockReset();
});

test('the list is asked for as it is narrowed; how far it is is shown, then the file is handed over', async () => {
  send.mockResolvedValueOnce(job({})).mockResolvedValueOnce(job({ done: 40 }));
  const links: string[] = [];
  vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    links.push(`${new URL(this.href).pathname} ${this.download}`);
  });
  const page = show(SaveList, { list: 'people', asked: { search: 'ann', teamId: null, sort: 'name' } });
  await press(page, 'As CSV');
  const asked = { list: 'people', as: 'csv', query: { search: 'ann', sort: 'name' }, ids: null };
  expect(send.mock.calls[0]).toEqual(['POST', '/api/saved-lists', { body: asked }]);
  live.changedItems = [{ kind: 'job', id: 'j' }];
  await expect.poll(() => page.text()).toContain('40 %');
  send.mockResolvedValueOnce(
    job({ state: 'done', endedAt: 1, outcome: '100 rows are saved.', file: 'people.csv' }),
  );
  live.changedItems = [{ kind: 'job', id: 'j' }];
  await expect.poll(() => links).toEqual(['/api/saved-lists/j/file people.csv']);
  expect(said.say).toHaveBeenCalledWith('100 rows are saved.');
  expect(page.text()).toContain('Download');
});

test('marked rows only, when some are; a failure is said, and nothing is handed over', async () => {
  send.mockResolvedValueOnce(job({ state: 'failed', endedAt: 1, outcome: 'A sheet holds at most so many.' }));
  const page = show(SaveList, { list: 'people', marked: ['a', 'b'], cards: true });
  expect(page.text()).toContain('Download the 2 marked');
  await press(page, 'As address cards (vCard)');
  expect((send.mock.calls[0]![2] as { body: { ids: string[] } }).body.ids).toEqual(['a', 'b']);
  await expect.poll(() => said.warn).toHaveBeenCalledWith('A sheet holds at most so many.');
});

test('it is stopped by whoever began it', async () => {
  send.mockResolvedValueOnce(job({})).mockResolvedValueOnce(job({ state: 'stopped', endedAt: 1 }));
  const page = show(SaveList, { list: 'calls' });
  await press(page, 'As JSON Lines');
  await expect.poll(() => page.text()).toContain('Stop');
  await page.get('button').trigger('click');
  await expect.poll(() => page.text()).toContain('Download');
  expect(send.mock.calls[1]).toEqual(['POST', '/api/jobs/j/stop', { body: {} }]);
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import { show } from '../testing.ts';
import JobLine from './JobLine.vue';

afterEach(() => (document.body.innerHTML = ''));
const job = (more: Partial<JobView> = {}): JobView => ({
  ...{ id: 'j', kind: 'speakPrompts', title: 'Speaking 1,200 prompts', state: 'running', done: 300 },
  ...{
    total: 1_200,
    doing: null,
    leftOut: [],
    outcome: null,
    by: 'Ada',
    byId: 'a',
    at: 1,
    endedAt: null,
    ...more,
  },
});

test('says how far it is, for the eye and for readers, and can be stopped', async () => {
  const page = show(JobLine, { job: job() });
  expect(page.text()).toContain('300 of 1,200');
  expect(page.get('[role="progressbar"]').attributes('aria-valuenow')).toBe('25');
  await page.get('button').trigger('click');
  expect(page.emitted('stop')).toHaveLength(1);
});

test('one that waits says so; one whose length nobody knows counts', () => {
  expect(show(JobLine, { job: job({ state: 'waiting', done: 0 }) }).text()).toContain('waits for its turn');
  const open = show(JobLine, { job: job({ total: null }) });
  expect(open.text()).toContain('300');
  expect(open.get('[role="progressbar"]').attributes('aria-valuenow')).toBeUndefined();
});

test('what became of it stays until it is put away', async () => {
  const page = show(JobLine, {
    job: job({ state: 'failed', outcome: 'There is no voice here.', endedAt: 2 }),
  });
  expect(page.text()).toContain('There is no voice here.');
  expect(page.find('[role="progressbar"]').exists()).toBe(false);
  await page.get('[aria-label="Put this away"]').trigger('click');
  expect(page.emitted('forget')).toHaveLength(1);
});

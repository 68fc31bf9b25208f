// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import { api } from '../../api/client.ts';
import * as items from '../../api/items.ts';
import { useLive } from '../../shell/live.ts';
import { show } from '../../testing.ts';
import ImportSheet from './ImportSheet.vue';

vi.mock('../../shell/set-up.ts', () => ({ useSetUp: () => ({ load: () => Promise.resolve() }) }));
const send = vi.spyOn(items, 'send');
const look = vi.spyOn(api, 'POST');
const mapping = { phone: 1, name: 0, firstName: null, lastName: null, fields: [] };
const job = (more: Partial<JobView> = {}) =>
  ({
    ...{ id: 'j', kind: 'importContacts', title: 'Bringing 2 contacts', state: 'running', done: 0, total: 2 },
    ...{ doing: null, leftOut: [], outcome: null, endedAt: null, ...more },
  }) as JobView;
let now: JobView;

beforeEach(() => {
  now = job();
  send.mockReset();
  send.mockImplementation((method, path) =>
    Promise.resolve((path === '/api/jobs' ? [] : method === 'GET' ? now : job()) as never),
  );
  look.mockReset();
  look.mockResolvedValue({
    data: {
      ...{ separator: ',', headers: ['name', 'phone'], rows: [['Ann', '+1']], total: 2, mapping },
      checked: {
        ...{ good: 2, faulty: 0, byReason: {}, faults: [], uncertainZones: 0, withoutZone: 0 },
      },
    },
    response: new Response(),
  } as never);
});
afterEach(() => (document.body.innerHTML = ''));

/** A sheet in which these rows were pasted and looked at. */
async function looked(text: string) {
  const page = show(ImportSheet, { campaign: { id: 'c' } as never, file: null });
  await page.get('textarea').setValue(text);
  await press(page, 'Look at it');
  return page;
}
async function press(page: ReturnType<typeof show>, words: string) {
  await page
    .findAll('button')
    .find((each) => each.text() === words)!
    .trigger('click');
  await flushPromises();
}
async function becomes(next: JobView) {
  now = next;
  useLive().changedItems = [{ kind: 'job', id: 'j' }];
  await flushPromises();
}
const rows = 'name,phone\nAnn,+1 360 555 0111\nBo,+1 360 555 0112';

test('the file goes up whole, with the columns as they were chosen; how far it is can be seen', async () => {
  const page = await looked(rows);
  await press(page, 'Add 2 contacts');
  const [, path, { file }] = send.mock.calls.at(-1) as ['POST', string, { file: Blob }];
  expect(JSON.parse(decodeURIComponent(path.split('mapping=')[1]!))).toEqual(mapping);
  expect(file.type).toBe('text/csv');
  expect(await file.text()).toBe(rows);
  await becomes(job({ done: 1, doing: 'Checking all of them against the other tables' }));
  expect(page.get('[role="status"]').text()).toContain('Checking all of them');
  await becomes(job({ state: 'done', done: 2, outcome: '2 contacts added.', endedAt: 5 }));
  expect(page.emitted('done')).toHaveLength(1);
});

test('what failed is said there, and the rows are kept to be mended', async () => {
  const page = await looked(rows);
  await press(page, 'Add 2 contacts');
  await becomes(job({ state: 'failed', outcome: 'No row can be called.', endedAt: 5 }));
  expect(page.get('[role="alert"]').text()).toContain('No row can be called.');
  expect(page.emitted('done')).toBeUndefined();
  await press(page, 'Another file');
  expect(page.get('textarea').element.value).toBe(rows);
});

test('of a long list the beginning is looked at, to the end of a row; rows left out later are named then', async () => {
  const long = `name,phone\n${'Somebody with a long name,+1 360 555 0111\n'.repeat(60_000)}`;
  const page = await looked(long);
  const { body } = look.mock.calls[0]![1] as unknown as { body: { text: string } };
  expect(body.text.length).toBeLessThanOrEqual(2_000_000);
  expect(body.text.endsWith('0111')).toBe(true);
  expect(page.text()).toContain('The rest is checked in the same way');
  await press(page, 'Bring them all');
  const leftOut = [{ row: 50_000, cell: '12', detail: 'Not a complete phone number.' }];
  await becomes(
    job({ state: 'done', outcome: '59,999 contacts added, 1 row left out.', leftOut, endedAt: 5 }),
  );
  expect(page.emitted('done')).toBeUndefined();
  expect(page.get('.faults').text()).toContain('row 50001');
  expect(page.text()).not.toContain('Bring them all');
});

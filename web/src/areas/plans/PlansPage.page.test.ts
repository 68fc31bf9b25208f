// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { PlanView } from '@night-bell/core/contracts/plans';
import type { CompiledStep } from '@night-bell/core/model/plan';
import type { PlanDocument } from '@night-bell/core/plan/document';
import { type Answers, type Asked, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { unsaved } from './plan-editing.ts';
import PlansPage from './PlansPage.vue';

let page: OpenPage;
afterEach(() => {
  page.close();
  unsaved.clear();
});

const step = (kind: CompiledStep['kind'], config: object, exits: Record<string, string> = {}) =>
  ({ kind, config, exits }) as CompiledStep;
const bookings = '01890000-0000-7000-8000-00000000000a';
const hoursThenQueue: PlanDocument = {
  start: 's1',
  steps: {
    s1: step('hours', { hoursId: 'h' }, { open: 's2', closed: 's2' }),
    s2: step('queue', { queueId: bookings, priority: null }),
  },
};
const plan = (document: PlanDocument, more: object = {}) =>
  ({
    ...{ id: 'p', version: 3, retired: false, name: 'Front line', document, live: null, published: null },
    ...{ scheduled: null, numbers: [], versions: [], usedBy: 0, rights: { editors: [], publishers: [] } },
    ...more,
  }) as unknown as PlanView;
const hours = {
  ...{ id: 'h', name: 'Every day', version: 1, retired: false, zone: 'UTC', days: [], storm: null },
  weekly: Array.from({ length: 7 }, () => [[540, 1_020]]),
};
const entry = {
  id: bookings,
  kind: 'queue',
  name: 'Bookings',
  extension: null,
  second: null,
  retired: false,
};
const open = async (document: PlanDocument, answers: Answers = {}, more: object = {}) => {
  const shown = plan(document, more);
  page = await openPage(
    PlansPage,
    {
      'GET /api/plans': [shown],
      'GET /api/plans/p': { item: shown, usedBy: [] },
      'GET /api/plans/p/versions': [],
      'GET /api/prompts': [],
      'GET /api/teams': [],
      'GET /api/opening-hours': [hours],
      'GET /api/hiding-extensions': [],
      'GET /api/record-fields': ['tier'],
      'GET /api/numbers': { rows: [], next: null },
      'GET /api/directory': [entry],
      'POST /api/test-calls': new Refusal(422, 'invalidInput', 'Type a number.'),
      ...answers,
    },
    { at: '/answering/p' },
  );
  await page.settled();
};
const sheet = () => page.shown.get('.step-sheet').text();
const led = (exit: string) => page.shown.get(`#exit-${exit}`).element as HTMLSelectElement;

test('an empty plan begins with the first step somebody takes, which then has the keys', async () => {
  await open({ start: null, steps: {} });
  expect(page.text()).toContain('No steps yet');
  await page.press('Hours');
  expect(sheet()).toContain('Choose the opening hours.');
  expect(page.text()).toContain('1 fault stops publishing');
  expect(document.activeElement?.getAttribute('role')).toBe('tree');
});

test('a way is led to a step or to a new one, whose fields then have the keys; Escape leads back', async () => {
  await open({
    ...hoursThenQueue,
    steps: { ...hoursThenQueue.steps, s1: step('hours', { hoursId: 'h' }, { open: 's2' }) },
  });
  expect(sheet()).toContain('“closed” leads nowhere');
  await page.fill('closed, the call goes to', 'New step: Voicemail');
  await page.settled();
  expect(sheet()).toContain('Voicemail');
  expect(document.activeElement?.id).toBe('step-boxId');
  document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
  expect(document.activeElement?.getAttribute('role')).toBe('tree');
});

test('what is changed is a draft until it is saved; undo and redo go step by step', async () => {
  const saved: unknown[] = [];
  await open(hoursThenQueue, {
    'PUT /api/plans/p': ({ body }: Asked) => {
      saved.push(body);
      return plan((body as { document: PlanDocument }).document, { version: 4 });
    },
  });
  expect(page.text()).not.toContain('Save draft');
  await page.fill('closed, the call goes to', 'nowhere');
  expect(page.text()).toContain('Save draft');
  await page.press('Undo');
  expect(led('closed').selectedOptions[0]!.text).toContain('Wait for an agent of Bookings');
  await page.press('Redo');
  await page.press('Save draft');
  await page.settled();
  expect(saved).toMatchObject([
    { name: 'Front line', document: { steps: { s1: { exits: { open: 's2' } } } } },
  ]);
  expect(page.sent.find(({ method }) => method === 'PUT')!.version).toBe('"3"');
});

test('two who edit at once: nothing is lost, theirs can be taken, and mine comes back by undo', async () => {
  const theirs = plan({ start: 's2', steps: { s2: hoursThenQueue.steps.s2! } }, { version: 4 });
  await open(hoursThenQueue, {
    'PUT /api/plans/p': () =>
      Response.json(
        {
          ...{ status: 409, code: 'changedMeanwhile', title: 'Changed', detail: 'Changed meanwhile.' },
          ...{ errors: [], current: theirs, by: 'Jo Marrash' },
        },
        { status: 409 },
      ),
  });
  await page.fill('a holiday, the call goes to', '2 Wait for an agent of Bookings');
  await page.press('Save draft');
  await page.settled();
  expect(page.text()).toContain('Jo Marrash changed this plan while you were at it. Nothing is lost.');
  await page.press('Take theirs');
  await page.settled();
  expect(page.text()).toContain('1 step,');
  await page.press('Undo');
  expect(page.text()).toContain('2 steps,');
});

test('a plan without faults is published as it is seen', async () => {
  const published: Asked[] = [];
  await open(hoursThenQueue, {
    'POST /api/plans/p/publish': (asked: Asked) => {
      published.push(asked);
      return plan(hoursThenQueue, {
        version: 4,
        live: hoursThenQueue,
        published: { version: 1, at: Date.now() },
      });
    },
  });
  await page.press(/^Publish$/);
  await page.settled();
  expect(published).toHaveLength(1);
  expect(published[0]!.version).toBe('"3"');
  expect(page.said()).toContain('Callers meet version 1 of Front line from now on');
});

test('list and sentences say the same as the picture', async () => {
  await open(hoursThenQueue);
  expect(page.shown.get('.picture [role=treeitem]').attributes('aria-label')).toContain(
    'Ask the hours of Every day',
  );
  await page.shown.get('.looks input[value=list]').setValue(true);
  await page.settled();
  expect(page.shown.get('.plan-list').text()).toContain('Ask the hours of Every day');
  await page.shown.get('.looks input[value=sentences]').setValue(true);
  await page.settled();
  expect(page.text()).toContain('1. Ask the hours of Every day.');
  expect(page.text()).toContain('2. Wait for an agent of Bookings.');
});

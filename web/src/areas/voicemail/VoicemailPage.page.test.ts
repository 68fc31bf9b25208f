// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { VoicemailBoxView } from '@night-bell/core/contracts/voicemail-boxes';
import { type Answers, type OpenPage, openPage } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import VoicemailPage from './VoicemailPage.vue';

const box = (id: string, name: string, more: Partial<VoicemailBoxView> = {}): VoicemailBoxView => ({
  ...{ id, name, version: 1, retired: false, extension: null, hoursId: null, whenFull: null },
  ...{ maxMessageSeconds: 180, mostMessages: 100, keepDays: 30, listeners: [], mailTo: [] },
  greetings: { open: { outside: null, inside: null }, closed: { outside: null, inside: null } },
  ...{ ownerId: null, ownerKind: null, held: 0, fresh: 0, oldestFresh: null, hasPin: false, uses: 0 },
  ...more,
});
const waiting = box('b', 'Refunds', { held: 5, fresh: 2, oldestFresh: Date.UTC(2026, 10, 3, 20) });
let boxes: VoicemailBoxView[];
let page: OpenPage;
afterEach(() => page.close());

/** Rows as asked, and how many there are in all. */
const list: Answers[string] = ({ query }: { query: URLSearchParams }) => {
  const rows = boxes.filter(
    (each) =>
      (query.get('only') !== 'new' || each.fresh > 0) &&
      each.name.toLowerCase().includes(query.get('search') ?? '') &&
      (!query.has('ids') || query.getAll('ids').includes(each.id)),
  );
  return Response.json(rows.slice(0, Number(query.get('limit'))), {
    headers: query.has('total') ? { 'total-count': String(rows.length) } : {},
  });
};
const open = (at = '/voicemail', props = {}, more: Answers = {}) =>
  openPage(VoicemailPage, { 'GET /api/voicemail-boxes': list, ...more }, { at, props });
const names = () => page.shown.findAll('tbody td:nth-child(2)').map((cell) => cell.text());

test('boxes are read a stretch at a time, and the sentence counts those with new messages', async () => {
  boxes = [waiting, box('a', "Ann Berg's voicemail")];
  page = await open();
  expect(names()).toEqual(['Refunds', 'Ann Berg']);
  expect(page.text()).toContain('2 boxes, 1 with new messages, the oldest of Tue 3 Nov');
  const read = page.asked.filter(({ path }) => path === '/api/voicemail-boxes');
  expect(read.map(({ query }) => query.get('limit')).sort()).toEqual(['1', '1', '100']);
});

test('what one looks for stands in the address, and is asked of the server', async () => {
  boxes = [waiting, box('a', 'Lost property')];
  page = await open();
  await page.fill('Find a box', 'lost');
  expect(page.address()).toBe('/voicemail?find=lost');
  expect(names()).toEqual(['Lost property']);
  await page.fill('Which boxes', 'boxes with new messages');
  expect(page.address()).toContain('of=new');
  expect(page.text()).toContain('No box is like that.');
  await page.press('Show all');
  expect(names()).toEqual(['Refunds', 'Lost property']);
});

test('a message that comes has its box read again, and only that', async () => {
  boxes = [waiting, box('a', 'Lost property')];
  page = await open();
  page.asked.length = 0;
  boxes = [waiting, box('a', 'Lost property', { held: 1, fresh: 1 })];
  useLive().changedItems = [{ kind: 'voicemail', id: 'a' }];
  await page.settled();
  const again = page.asked.filter(({ query }) => query.has('ids'));
  expect(again.map(({ query }) => query.getAll('ids'))).toEqual([['a']]);
  expect(page.shown.findAll('tbody b').map((name) => name.text())).toEqual(['Refunds', 'Lost property']);
});

test('a box is opened by its address without reading them all, and closed again', async () => {
  boxes = [waiting];
  const deep = box('z', 'Far down');
  page = await open(
    '/voicemail/z',
    { id: 'z' },
    {
      'GET /api/voicemail-boxes/z': { item: deep, usedBy: [] },
      'GET /api/voicemail-boxes/z/messages': [],
      ...{ 'GET /api/prompts': [], 'GET /api/opening-hours': [] },
    },
  );
  expect(page.shown.find('aside h2').text()).toBe('Far down');
  await page.press('Close the sheet');
  expect(page.address()).toBe('/voicemail');
});

test('a list that cannot be read says so, and is read again', async () => {
  boxes = [waiting];
  let broken = true;
  page = await open(
    '/voicemail',
    {},
    {
      'GET /api/voicemail-boxes': (asked: never) =>
        broken ? new Response(null, { status: 500 }) : (list as (of: never) => unknown)(asked),
    },
  );
  await expect.poll(() => page.text()).toContain('The list could not be read.');
  broken = false;
  await page.press('Read it again');
  expect(names()).toEqual(['Refunds']);
});

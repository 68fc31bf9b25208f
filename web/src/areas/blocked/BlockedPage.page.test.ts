// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { BlockedView } from '@night-bell/core/contracts/blocked';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import BlockedPage from './BlockedPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const entry = (id: string, more: Partial<BlockedView> = {}): BlockedView =>
  ({
    ...{ id, version: 1, retired: false, name: 'Sings', kind: 'number', digits: '+13605550117' },
    ...{ until: null, why: '', hits: 0, lastHit: null },
    ...more,
  }) as BlockedView;
const opened: Answers = {
  'GET /api/blocked/n': { item: entry('n'), usedBy: [] },
};
const open = async (entries: BlockedView[], answers: Answers = {}) => {
  page = await openPage(BlockedPage, { 'GET /api/blocked': entries, ...answers }, { at: '/blocked' });
};

test('only those in force are counted, with how many calls they turned away', async () => {
  await open([
    entry('a', { hits: 3, lastHit: Date.UTC(2026, 10, 20) }),
    entry('b', { name: 'Was loud', until: Date.UTC(2020, 0, 1) }),
  ]);
  expect(page.text()).toContain('1 entry in force, 3 calls turned away');
  expect(page.text()).toContain('for good');
  expect(page.text()).toContain('over');
});

test('an entry holds for three months unless one says otherwise; digits are tidied as they are typed', async () => {
  await open([], { 'POST /api/blocked': entry('n'), ...opened });
  await page.press('New entry');
  await page.fill('Name', 'Sings');
  await page.fill('Digits', '+1 (360) 555-0117');
  await page.press(/^Make /);
  const body = page.sent[0]!.body as { digits: string; until: number; kind: string };
  expect([body.kind, body.digits]).toEqual(['number', '+13605550117']);
  expect(Math.round((body.until - Date.now()) / 86_400_000)).toBeGreaterThanOrEqual(89);
});

test('withheld numbers have no digits, and may be turned away for good', async () => {
  await open([], { 'POST /api/blocked': entry('n'), ...opened });
  await page.press('New entry');
  await page.fill('Name', 'Withheld');
  const options = page.shown.findAll('#blocked-kind option').map((option) => option.text());
  await page.fill(
    'Who',
    options.find((title) => /withheld/i.test(title))!,
  );
  await page.fill('for good', true);
  await page.press(/^Make /);
  expect(page.sent[0]!.body).toMatchObject({ kind: 'withheld', digits: '', until: null });
});

test('our own numbers are never turned away: the reason stands at the digits', async () => {
  await open([], {
    'POST /api/blocked': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/digits', detail: 'That is one of our own numbers.' },
    ]),
  });
  await page.press('New entry');
  await page.fill('Name', 'Us');
  await page.fill('Digits', '+12065550140');
  await page.press(/^Make /);
  expect(document.getElementById('blocked-digits')!.getAttribute('aria-invalid')).toBe('true');
  expect(page.text()).toContain('That is one of our own numbers.');
});

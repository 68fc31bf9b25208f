// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage } from '../../page.testing.ts';
import SetAsidePage from './SetAsidePage.vue';

let page: OpenPage;
afterEach(() => page.close());

const each = (id: number, more: object = {}) => ({
  ...{
    id,
    at: Date.UTC(2026, 10, 20),
    kind: 'recompile',
    what: 'notTaken',
    why: 'It is no JSON.',
    seen: false,
  },
  ...{ seenBy: null, callIds: [], seq: 12, content: '{"kind":"recompile"}' },
  ...more,
});
const home = { counts: {}, findings: [], since: [], ifSomeoneRang: [] };
const open = async (list: object[] | (() => object[]), answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    SetAsidePage,
    { 'GET /api/set-aside': list, 'GET /api/home': home, ...answers } as Answers,
    { role },
  );
};

test('nothing set aside is said to be good news', async () => {
  await open([]);
  expect(page.text()).toContain('The exchange took everything it was given.');
});

test('what nobody looked at is counted; looked at, it stays with who did', async () => {
  let seen = false;
  await open(() => [each(1, seen ? { seen, seenBy: 'Rowan Tseng' } : {})], {
    'POST /api/set-aside/1/seen': () => {
      seen = true;
      return null;
    },
  });
  expect(page.text()).toContain('1 not looked at yet');
  await page.shown.find('tbody tr').trigger('click');
  await page.settled();
  expect(page.shown.find('aside').text()).toContain('"kind": "recompile"');
  await page.press(/looked at|seen/i);
  expect(page.text()).toContain('All looked at');
  expect(page.text()).toContain('Rowan Tseng');
});

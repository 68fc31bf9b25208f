// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import HandOver from './HandOver.vue';

let page: OpenPage;
afterEach(() => page.close());

const way = (id: string, name: string, more: object = {}) => ({
  ...{ id, name, kind: 'person', extension: '2104', state: 'available', canRing: true },
  ...more,
});
const ways = [
  way('p', 'Ines Calloway'),
  way('o', 'Otto Lind', { state: 'signedOut', canRing: false }),
  way('q', 'Refunds', { kind: 'queue', state: null, extension: '700' }),
];
const open = async (answers: Answers = {}) => {
  page = await openPage(HandOver, { 'GET /api/desk/ways': ways, ...answers }, { props: { callId: 'c' } });
};
const choose = async (name: string) => {
  const options = page.shown.findAll('option').map((option) => option.text());
  await page.fill(
    'To whom the caller goes',
    options.find((option) => option === name)!,
  );
};
const button = (words: string) => page.shown.findAll('button').find((each) => each.text().startsWith(words));

test('a colleague is told first, or the caller goes at once', async () => {
  await open({ 'POST /api/desk/calls/c/announce': null, 'POST /api/desk/calls/c/hand-over': null });
  expect(button('Hand over at once')!.attributes('disabled')).toBeDefined();
  await choose('Ines Calloway');
  await page.press('Tell them first');
  await page.press('Hand over at once');
  expect(page.sent.map(({ path, body }) => [path.split('/').at(-1), body])).toEqual([
    ['announce', { personId: 'p' }],
    ['hand-over', { to: { kind: 'person', id: 'p' } }],
  ]);
});

test('a queue cannot be told; who cannot be rung is said to be so', async () => {
  await open();
  await choose('Refunds');
  expect(button('Tell them first')).toBeUndefined();
  await choose('Otto Lind');
  expect(button('Tell them first')!.attributes('disabled')).toBeDefined();
  expect(page.text()).toContain('Otto Lind cannot be rung now.');
});

test('a refusal is said, and the caller stays', async () => {
  await open({ 'POST /api/desk/calls/c/hand-over': new Refusal(409, 'notNow', 'The caller has hung up.') });
  await choose('Ines Calloway');
  await page.press('Hand over at once');
  expect(page.said()).toBe('The caller has hung up.');
});

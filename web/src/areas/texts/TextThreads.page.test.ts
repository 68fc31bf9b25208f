// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { Text } from '../../api/client.ts';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import TextThreads from './TextThreads.vue';

let page: OpenPage;
let texts: Text[];
afterEach(() => page.close());

const text = (id: string, more: Partial<Text> = {}): Text =>
  ({
    ...{ id, numberId: 'n', number: '+12065550140', label: 'Main line', other: '+13605550117', name: null },
    ...{ direction: 'in', body: `Body ${id}`, at: '2026-11-20T12:00:00Z', by: null, state: 'received' },
    ...{ why: null, optedOut: false },
    ...more,
  }) as Text;
const open = async (of: Text[], props: object = { mayWrite: true }, answers: Answers = {}) => {
  texts = of;
  page = await openPage(TextThreads, { 'GET /api/texts': () => texts, ...answers }, { props });
};

test('texts of one other side are one thread, the latest on top, the oldest first within', async () => {
  await open([
    text('3', { direction: 'out', by: 'Ines', body: 'We sail at nine.' }),
    text('2'),
    text('1', { other: '+13605550118', name: 'Orla Fenn' }),
  ]);
  const threads = page.shown.findAll('.list-row').map((row) => row.text());
  expect(threads).toHaveLength(2);
  expect(threads[0]).toContain('Ines: We sail at nine.');
  expect(threads[1]).toContain('Orla Fenn');
  await page.shown.find('.list-row').trigger('click');
  await page.settled();
  expect(page.shown.findAll('.thread .said').map((said) => said.text())).toEqual([
    'Body 2',
    'We sail at nine.',
  ]);
});

test('an answer goes to who wrote, from the number they wrote to; its price is said before', async () => {
  await open([text('1')], { mayWrite: true }, { 'POST /api/texts': null });
  await page.shown.find('.list-row').trigger('click');
  await page.settled();
  await page.shown.find('textarea').setValue('x'.repeat(161));
  expect(page.text()).toContain('2 parts, each charged');
  await page.press('Send');
  expect(page.sent[0]!.body).toEqual({ numberId: 'n', to: '+13605550117', body: 'x'.repeat(161) });
  expect((page.shown.find('textarea').element as HTMLTextAreaElement).value).toBe('');
});

test('what could not be sent stays typed, and says why', async () => {
  await open(
    [text('1')],
    { mayWrite: true },
    {
      'POST /api/texts': new Refusal(
        409,
        'notNow',
        'The balance does not pay for it. Add money under Numbers.',
      ),
    },
  );
  await page.shown.find('.list-row').trigger('click');
  await page.settled();
  await page.shown.find('textarea').setValue('Hello');
  await page.press('Send');
  expect(page.text()).toContain('The balance does not pay for it.');
  expect((page.shown.find('textarea').element as HTMLTextAreaElement).value).toBe('Hello');
});

test('who opted out is not written to, and it is said; a text that failed says why', async () => {
  await open([
    text('1', { optedOut: true, direction: 'out', state: 'failed', why: 'the number is not in service' }),
  ]);
  await page.shown.find('.list-row').trigger('click');
  await page.settled();
  expect(page.text()).toContain('They asked for no more calls and texts.');
  expect(page.text()).toContain('not sent: the number is not in service');
  expect(page.shown.find('textarea').exists()).toBe(false);
});

test('somebody is texted first from a number; a text that comes is shown at once', async () => {
  await open([], { numberId: 'n', mayWrite: true }, { 'POST /api/texts': null });
  expect(page.text()).toContain('No texts yet.');
  await page.press('Text somebody');
  await page.fill('Whom to text', '+1 360 555 0119');
  await page.fill('What to text', 'Your berth is held.');
  await page.press('Send');
  expect(page.sent[0]!.body).toEqual({ numberId: 'n', to: '+1 360 555 0119', body: 'Your berth is held.' });
  texts = [text('9', { body: 'Thank you' })];
  useLive().textChanges++;
  await page.settled();
  expect(page.text()).toContain('Thank you');
});

test('who may not write reads only; many threads begin with a few', async () => {
  await open(
    Array.from({ length: 9 }, (_, index) => text(String(index), { other: `+1360555010${index}` })),
    { mayWrite: false },
  );
  expect(page.shown.findAll('.list-row')).toHaveLength(6);
  await page.press('All 9');
  expect(page.shown.findAll('.list-row')).toHaveLength(9);
  await page.shown.find('.list-row').trigger('click');
  await page.settled();
  expect(page.shown.find('textarea').exists()).toBe(false);
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import PinField from './PinField.vue';

let page: OpenPage;
afterEach(() => page.close());
const open = async (box: object, answers: Answers) => {
  page = await openPage(PinField, answers, {
    props: {
      box: { id: 'b', name: 'Lost property', hasPin: false, mailTo: ['desk@merrow.example'], ...box },
    },
  });
};

test('a PIN is set, sent or taken away, each said in words', async () => {
  await open({ hasPin: true }, { 'POST /api/voicemail-boxes/b/pin': null });
  await page.fill('New PIN, 4 to 10 digits', '2468');
  await page.press('Set');
  expect(page.said()).toBe('The PIN of Lost property is set.');
  await page.press('Send a new one');
  expect(page.said()).toBe('A new PIN is on its way to desk@merrow.example.');
  await page.press('Take it away');
  expect(page.sent.map(({ body }) => body)).toEqual([
    { pin: '2468', send: false },
    { pin: null, send: true },
    { pin: null, send: false },
  ]);
});

test('without an address a PIN cannot be sent, and what was typed stays', async () => {
  await open(
    { mailTo: [] },
    {
      'POST /api/voicemail-boxes/b/pin': new Refusal(
        422,
        'invalidInput',
        'Name an address for new messages first.',
      ),
    },
  );
  expect(page.text()).toContain('None: the box cannot be heard from a phone.');
  await page.fill('New PIN, 4 to 10 digits', '2468');
  await page.press('Send a new one');
  expect(page.said()).toBe('Name an address for new messages first.');
  expect((page.shown.find('input').element as HTMLInputElement).value).toBe('2468');
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import DeskCall from './DeskCall.vue';

let page: OpenPage;
afterEach(() => page.close());

const call = (more: object = {}) => ({
  ...{
    campaignName: null,
    queueName: 'Bookings',
    sourceName: 'Harbour poster',
    script: 'Good morning, Orla.',
  },
  ...{
    outcomes: [
      { name: 'Booked', good: true },
      { name: 'Calls back', good: false },
    ],
    given: null,
  },
  ...{ record: null, fields: { first_name: 'Orla', cabin_class: 'Two berths' } },
  ...more,
});
const open = async (answers: Answers = {}, over = false, view: object = call()) => {
  page = await openPage(
    DeskCall,
    { 'GET /api/desk/calls/c': view, ...answers },
    { role: 'agent', props: { callId: 'c', over } },
  );
};

test('what the call is for is there: script, where it came from, what is known of the contact', async () => {
  await open();
  expect(page.text()).toContain('Bookings, came by Harbour poster');
  expect(page.text()).toContain('Good morning, Orla.');
  expect(page.text()).toContain('cabin classTwo berths');
  expect(page.text()).not.toContain('first name');
});

test('how it ended is kept with a note', async () => {
  await open({ 'PUT /api/desk/calls/c/outcome': null });
  await page.press('Booked');
  await page.fill('Note', 'Wants a window.');
  await page.press('Save');
  expect(page.sent[0]!.body).toEqual({ outcome: 'Booked', note: 'Wants a window.' });
  expect(page.said()).toBe('Booked. Kept.');
});

test('what was given before is shown, and can be given anew', async () => {
  await open(
    { 'PUT /api/desk/calls/c/outcome': null },
    true,
    call({ given: { outcome: 'Booked', note: 'x' } }),
  );
  const checked = () => page.shown.findAll('[role=radio]').map((each) => each.attributes('aria-checked'));
  expect(checked()).toEqual(['true', 'false']);
  await page.press('Calls back');
  expect(checked()).toEqual(['false', 'true']);
  await page.press('Save and go on');
  expect(page.sent[0]!.body).toEqual({ outcome: 'Calls back', note: 'x' });
});

test('opting out asks once more, because nobody takes it back', async () => {
  await open({ 'POST /api/desk/calls/c/opt-out': null });
  await page.press('Opt this number out');
  expect(page.sent).toEqual([]);
  await page.press('Put on the opt-out list');
  expect(page.said()).toContain('no campaign ever calls this number again');
});

test('a call of somebody else is not shown, and the reason is', async () => {
  await open({ 'GET /api/desk/calls/c': new Refusal(403, 'notAllowed', 'This call is not yours.') });
  expect(page.text()).toBe('This call is not yours.');
});

test('what could not be kept stays typed, with the reason', async () => {
  await open({ 'PUT /api/desk/calls/c/outcome': new Refusal(409, 'notNow', 'Try again in a moment.') });
  await page.fill('Note', 'Half a story');
  await page.press('Save');
  expect(page.text()).toContain('Try again in a moment.');
  expect((page.shown.find('textarea').element as HTMLTextAreaElement).value).toBe('Half a story');
});

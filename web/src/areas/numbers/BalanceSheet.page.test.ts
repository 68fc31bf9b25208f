// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import BalanceSheet from './BalanceSheet.vue';

let page: OpenPage;
afterEach(() => page.close());
const entry = (id: number, more: object = {}) => ({
  ...{
    id,
    at: '2026-11-20T12:00:00Z',
    kind: 'rent',
    what: 'Rent of +12065550140',
    amount: '-1.15',
    after: '18.85',
  },
  ...more,
});
const balance = (more: object = {}) => ({
  ...{
    balance: '18.85',
    low: '10',
    isLow: false,
    entries: [entry(2), entry(1, { kind: 'topUp', what: 'Paid in' })],
  },
  ...{ more: true },
  ...more,
});
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    BalanceSheet,
    { 'GET /api/balance': balance(), 'GET /api/balance/days': [], ...answers },
    { role },
  );
  await page.settled();
};

test('what is paid in is there at once; an amount that is none is refused at its field', async () => {
  let refuse = true;
  await open({
    'POST /api/balance/top-ups': () =>
      refuse
        ? new Refusal(422, 'invalidInput', 'A field is wrong.', [
            { path: '/amount', detail: 'An amount like 50 or 12.50, up to 10,000.' },
          ])
        : balance({ balance: '68.85' }),
  });
  await page.press('Pay in');
  expect(page.text()).toContain('An amount like 50 or 12.50');
  refuse = false;
  await page.press('Pay in');
  expect(page.sent.at(-1)!.body).toEqual({ amount: '50' });
  expect(page.shown.find('.sum').text()).toContain('68.85');
});

test('the bound of a low balance is set when one leaves the field, once', async () => {
  await open({ 'PUT /api/balance/low': balance({ low: '25', isLow: true }) });
  const low = page.shown.find('#low');
  await low.setValue('25');
  await low.trigger('blur');
  await page.settled();
  await low.trigger('blur');
  await page.settled();
  expect(page.sent.map(({ body }) => body)).toEqual([{ low: '25' }]);
  expect(page.shown.find('.sum').classes()).toContain('fault-text');
});

test('numbers within entries are written as people read them; who may not edit pays nothing in', async () => {
  await open({}, 'auditor');
  expect(page.text()).toMatch(/Rent of .*206.*555.*0140/);
  expect(page.text()).not.toContain('+12065550140');
  expect(page.shown.find('#top-up').exists()).toBe(false);
});

// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import NumberShop from './NumberShop.vue';

let page: OpenPage;
afterEach(() => page.close());

const countries = [
  {
    ...{ code: 'US', name: 'United States', nothingBecause: null },
    kinds: [
      { kind: 'local', text: true },
      { kind: 'tollFree', text: false },
    ],
  },
  { code: 'DE', name: 'Germany', nothingBecause: 'an address there is asked for.', kinds: [] },
];
const offer = (number: string, more = {}) => ({
  ...{ number, place: 'Seattle, WA', text: true, monthly: '1.15', reports: [], held: null },
  ...more,
});
const until = () => new Date(Date.now() + 9 * 60_000).toISOString();
const open = async (answers: Answers = {}, role = 'administrator') => {
  const stock = [offer('+12065550150'), offer('+12065550151', { held: 'other' })];
  page = await openPage(
    NumberShop,
    {
      ...{ 'GET /api/number-shop/countries': countries, 'GET /api/number-shop/numbers': stock },
      ...{ 'GET /api/number-shop/holds': [], 'GET /api/balance': { balance: '20.00' } },
      ...answers,
    },
    { role },
  );
  await page.settled();
};
const searches = () =>
  page.asked.filter(({ path }) => path === '/api/number-shop/numbers').map(({ query }) => query.toString());

test('each part of the sentence narrows the stock', async () => {
  await open();
  await page.fill('City', 'Tacoma');
  await page.fill('Area code', '253');
  await page.fill('that can text', true);
  expect(searches().at(-1)).toBe('country=US&kind=local&area=253&place=Tacoma&text=true');
});

test('what cannot be had is said before anybody asks for it', async () => {
  await open();
  await page.fill('Kind', 'toll-free');
  const before = searches().length;
  await page.fill('that can text', true);
  expect(page.text()).toContain('No toll-free number can text.');
  await page.fill('Country', 'Germany');
  expect(page.text()).toContain('Nothing in Germany: an address there is asked for.');
  expect(searches()).toHaveLength(before);
});

test('a number is held, counts down, is let go; one held by somebody else is not offered', async () => {
  let holds: object[] = [];
  await open({
    'GET /api/number-shop/holds': () => holds,
    'POST /api/number-shop/holds': () => {
      holds = [{ number: '+12065550150', until: until(), offer: offer('+12065550150') }];
      return null;
    },
    'DELETE /api/number-shop/holds': () => {
      holds = [];
      return null;
    },
  });
  expect(page.text()).toContain('held by somebody else');
  expect(page.shown.findAll('button').filter((each) => each.text() === 'Hold')).toHaveLength(1);
  await page.press('Hold');
  expect(page.sent[0]!.body).toEqual({ numbers: ['+12065550150'] });
  expect(page.shown.find('[aria-label="Held for us"]').text()).toMatch(/8:5\d|9:00/);
  await page.press('Let +12065550150 go');
  expect(page.shown.find('[aria-label="Held for us"]').exists()).toBe(false);
});

test('nothing is rented that the balance does not pay for', async () => {
  const holds = [
    { number: '+12065550150', until: until(), offer: offer('+12065550150', { monthly: '30.00' }) },
  ];
  await open({ 'GET /api/number-shop/holds': holds });
  const rent = page.shown.findAll('button').find((each) => each.text() === 'Rent it')!;
  expect(rent.attributes('disabled')).toBeDefined();
});

test('renting takes all that are held; what the shop refuses is said, and they stay held', async () => {
  const holds = ['+12065550150', '+12065550152'].map((number) => ({
    number,
    until: until(),
    offer: offer(number),
  }));
  let refuse = true;
  await open({
    'GET /api/number-shop/holds': holds,
    'POST /api/number-shop/rentals': () =>
      refuse ? new Refusal(409, 'notNow', 'The shop is closed for a moment.') : { ids: ['a', 'b'] },
  });
  await page.press('Rent all 2');
  expect(page.said()).toBe('The shop is closed for a moment.');
  refuse = false;
  await page.press('Rent all 2');
  expect(page.sent.at(-1)!.body).toEqual({ numbers: ['+12065550150', '+12065550152'] });
  expect(page.said()).toBe('2 numbers are ours. Now say where they lead.');
});

test('who may not edit looks, and neither holds nor rents', async () => {
  await open({}, 'supervisor');
  expect(page.shown.findAll('button').map((each) => each.text())).not.toContain('Hold');
});

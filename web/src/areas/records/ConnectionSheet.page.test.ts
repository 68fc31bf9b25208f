// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import ConnectionSheet from './ConnectionSheet.vue';

let page: OpenPage;
afterEach(() => page.close());

const connection = {
  id: 'x',
  version: 2,
  name: 'Passenger records',
  address: 'https://records.example',
  link: '',
};
const open = async (of: object | null, answers: Answers = {}) => {
  page = await openPage(
    ConnectionSheet,
    { 'GET /api/allowed-addresses': [], 'GET /api/items/x/history': [], ...answers },
    { props: { connection: of, fields: ['id', 'tier'] } },
  );
};
const tested = (more: object) => ({ ok: false, detail: '', afterMs: 12, mayAllow: null, ...more });

test('a connection is tried before it is saved, and says what it found', async () => {
  await open(null, { 'POST /api/connections/test': tested({ ok: true, detail: 'It has 4,120 records.' }) });
  await page.fill('Address', 'https://records.example');
  await page.press(/^(Test|Try)/);
  expect(page.sent[0]!.body).toEqual({ id: null, address: 'https://records.example' });
  expect(page.text()).toContain('It has 4,120 records.');
});

test('an address in one’s own house is asked once somebody says that it is theirs', async () => {
  let allowed = false;
  await open(null, {
    'POST /api/connections/test': () =>
      allowed
        ? tested({ ok: true, detail: 'It has 7 records.' })
        : tested({ detail: 'This is an address of your own house.', mayAllow: '10.0.0.7' }),
    'PUT /api/allowed-addresses/10.0.0.7': () => {
      allowed = true;
      return null;
    },
  });
  await page.fill('Address', 'https://10.0.0.7');
  await page.press(/^(Test|Try)/);
  expect(page.text()).toContain('This is an address of your own house.');
  await page.press(/10\.0\.0\.7|ours|allow/i);
  expect(page.text()).toContain('It has 7 records.');
});

test('a key is sent only where one is typed: the one kept stays', async () => {
  await open(connection, { 'PUT /api/connections/x': connection });
  await page.press('Save');
  expect(page.sent[0]).toMatchObject({ version: '"2"' });
  expect(page.sent[0]!.body).not.toHaveProperty('key');
});

test('a fault stands at its field', async () => {
  await open(null, {
    'POST /api/connections': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/address', detail: 'An address begins with https://.' },
    ]),
  });
  await page.fill('Name', 'Passenger records');
  await page.fill('Address', 'records');
  await page.press(/^(Connect|Save)/);
  expect(page.text()).toContain('An address begins with https://.');
});

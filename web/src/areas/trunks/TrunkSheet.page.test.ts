// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { TrunkView } from '@night-bell/core/contracts/trunks';
import { type Answers, type OpenPage, openPage } from '../../page.testing.ts';
import TrunkSheet from './TrunkSheet.vue';
import { trunkArea } from './words.ts';

let page: OpenPage;
afterEach(() => page.close());

const trunk = (more: Partial<TrunkView> = {}): TrunkView =>
  ({
    ...trunkArea(() => '').fresh(),
    ...{ id: 'k', version: 7, retired: false, name: 'Sound Telecom', host: 'provider.example' },
    ...{
      account: 'merrow',
      channels: 30,
      registers: true,
      hasSecret: true,
      secretWeak: false,
      secretShared: false,
    },
    ...{ callerId: null, uses: 0 },
    ...more,
  }) as TrunkView;
const open = async (item: TrunkView | null, answers: Answers = {}) => {
  page = await openPage(
    TrunkSheet,
    {
      ...{ 'GET /api/trunks/k': { item, usedBy: [] }, 'GET /api/items/k/history': [], 'GET /api/people': [] },
      ...answers,
    },
    { props: { item } },
  );
};
const port = () => (page.shown.find('[aria-label=Port]').element as HTMLInputElement).value;

test('the usual port goes with the transport, unless another was typed', async () => {
  await open(null);
  expect(port()).toBe('5060');
  await page.fill('Transport', 'TLS');
  expect(port()).toBe('5061');
  await page.fill('Port', '5080');
  await page.fill('Transport', 'UDP');
  expect(port()).toBe('5080');
});

test('a secret is kept where none is typed, replaced where one is, and never shown', async () => {
  await open(trunk(), { 'PUT /api/trunks/k': trunk({ version: 8 }) });
  const secret = () => page.shown.find('#trunk-secret').element as HTMLInputElement;
  expect([secret().value, secret().placeholder]).toEqual(['', 'kept']);
  await page.fill('Channels', '40');
  await page.press('Save');
  expect(page.sent[0]).toMatchObject({ version: '"7"', body: { channels: 40 } });
  expect(page.sent[0]!.body).not.toHaveProperty('secret');
  await page.fill('Secret', 'correct horse');
  await page.press('Save');
  expect(page.sent[1]!.body).toMatchObject({ secret: 'correct horse' });
});

test.each([
  [{ secretWeak: true }, 'easily guessed'],
  [{ secretShared: true }, 'used elsewhere here too'],
  [{}, 'sealed'],
] as [Partial<TrunkView>, string][])('what is known of the secret %j is said', async (more, words) => {
  await open(trunk(more));
  expect(page.text()).toContain(words);
});

test('codecs are allowed one by one; none means any', async () => {
  await open(trunk({ codecs: [] }), { 'PUT /api/trunks/k': trunk() });
  expect(page.text()).toContain('None chosen: any may be used.');
  const [first] = page.shown.findAll('.codecs label').map((label) => label.text());
  await page.fill(first!, true);
  await page.press('Save');
  expect((page.sent[0]!.body as { codecs: string[] }).codecs).toHaveLength(1);
});

test('agents reached over it are named among what uses it', async () => {
  const person = { id: 'p', name: 'Ines Calloway' };
  await open(trunk(), { 'GET /api/people': [person] });
  const [read] = page.asked.filter(({ path }) => path === '/api/people');
  expect(read!.query.get('reachedOver')).toBe('k');
  await page.press('Used by 1');
  expect(page.text()).toContain('Ines Calloway');
});

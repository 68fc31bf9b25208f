// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { Contact } from '../../api/client.ts';
import { type OpenPage, openPage } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import CampaignContacts from './CampaignContacts.vue';

let page: OpenPage;
let contacts: Contact[];
afterEach(() => page.close());

const contact = (position: number, more: Partial<Contact> = {}): Contact =>
  ({
    ...{ id: `c${position}`, position, name: `Contact ${position}`, e164: '+13605550117', state: 'due' },
    ...{ attempts: 0, lastAt: null, lastResult: null, lastCallId: null, outcome: null, dueAt: null },
    ...{ zones: ['America/Los_Angeles'], fields: { cabin: 'Two berths' } },
    ...more,
  }) as Contact;
const open = async (of: Contact[], more: object = {}, at = '/campaigns/c', role = 'administrator') => {
  contacts = of;
  const campaign = { id: 'c', name: 'Season renewal', contacts: of.length, fields: ['cabin'], ...more };
  const list = ({ query }: { query: URLSearchParams }) => {
    const from = Number(query.get('behind') ?? -1) + 1;
    return contacts.filter(({ position }) => position >= from).slice(0, Number(query.get('limit')));
  };
  page = await openPage(
    CampaignContacts,
    { 'GET /api/campaigns/c/contacts': list as never },
    { props: { campaign }, at, role },
  );
};
const reads = () => page.asked.filter(({ path }) => path.endsWith('/contacts')).map(({ query }) => query);

test('each contact says when it is due by its own clock, and how the last call ended', async () => {
  await open([
    contact(1, { dueAt: '2020-01-01T00:00:00Z' }),
    contact(2, { zones: [], lastCallId: 'x', lastAt: Date.UTC(2026, 10, 20) as never, lastResult: 'busy' }),
    contact(3, { zones: ['America/Denver', 'America/Phoenix', 'America/Boise'], outcome: 'Booked' }),
  ]);
  expect(page.text()).toContain('now');
  expect(page.text()).toContain('unknown');
  expect(page.text()).toContain('3 zones');
  expect(page.text()).toContain('Los Angeles');
  expect(page.shown.find('a[href="/calls/x"]').exists()).toBe(true);
  expect(page.text()).toContain('Two berths');
});

test('more are read behind the last, as one comes near the end', async () => {
  await open(Array.from({ length: 230 }, (_, index) => contact(index)));
  page.shown.findComponent({ name: 'LedgerTable' }).vm.$emit('end');
  await page.settled();
  expect(reads().at(-1)!.get('behind')).toBe('199');
  page.shown.findComponent({ name: 'LedgerTable' }).vm.$emit('end');
  await page.settled();
  expect(reads()).toHaveLength(2);
});

test('state and words narrow the list, the state by the address', async () => {
  await open([contact(1)], {}, '/campaigns/c?state=due');
  expect(reads()[0]!.get('state')).toBe('due');
  await page.fill('Name or number', '0117');
  expect(reads().at(-1)!.get('text')).toBe('0117');
});

test('the first page moves while the campaign dials', async () => {
  await open([contact(1)]);
  contacts = [contact(1, { attempts: 3 })];
  useLive().endedCalls = ['x'];
  await page.settled();
  expect(page.shown.find('tbody').text()).toContain('3');
});

test('an empty campaign says how to begin; who may not edit brings nothing', async () => {
  await open([]);
  expect(page.text()).toContain('Nobody to call yet.');
  page.close();
  await open([], {}, '/campaigns/c', 'auditor');
  expect(page.shown.findAll('button').map((each) => each.text())).not.toContain('Bring a list');
});

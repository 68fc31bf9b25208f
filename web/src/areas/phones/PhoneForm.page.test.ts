// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { Phone } from '../../api/client.ts';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { somebody, team } from '../people/person.testing.ts';
import PhoneForm from './PhoneForm.vue';

let page: OpenPage;
afterEach(() => page.close());

const address = {
  street: '1 Quay',
  unit: '',
  city: 'Gull Harbour',
  region: 'WA',
  postalCode: '98250',
  country: 'US',
};
const phone = (more: Partial<Phone> = {}): Phone =>
  ({
    ...{
      id: 'f',
      version: 6,
      kind: 'device',
      model: 'softphone',
      transport: 'tls',
      codecs: [],
      timeZone: null,
    },
    ...{ numberId: null, dialTrunkId: null, home: false, emergencyAddress: null, lineKeys: [{ does: 'x' }] },
    ...more,
  }) as unknown as Phone;
const open = async (of: Phone, answers: Answers = {}, ofTeam: object = team('t', 'Bookings')) => {
  page = await openPage(
    PhoneForm,
    {
      ...{ 'GET /api/teams': [ofTeam], 'GET /api/items/f/history': [] },
      'GET /api/trunks': [
        { id: 'k', name: 'Sound Telecom', version: 1, retired: false },
        { id: 'o', name: 'Old line', version: 1, retired: true },
      ],
      ...answers,
    },
    { props: { person: somebody(), phone: of } },
  );
  await page.settled();
};
const options = (id: string) =>
  [...document.querySelectorAll(`#${id} option`)].map((option) => option.textContent);

test('where help is sent is said: the team’s address, none, or none outside the house', async () => {
  await open(phone(), {}, { ...team('t', 'Bookings'), emergencyAddress: address });
  expect(page.text()).toContain("As the team's: 1 Quay");
  page.close();
  await open(phone());
  expect(page.text()).toContain('None, and Bookings has none either.');
  page.close();
  await open(phone({ home: true }));
  expect(page.text()).toContain("the team's address would send help to the wrong place");
});

test('an address of its own is typed, and its faults stand at their fields', async () => {
  await open(phone({ home: true }), {
    'PUT /api/phones/f': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/emergencyAddress/city', detail: 'Type the city.' },
    ]),
  });
  await page.press('Its own address');
  await page.press('Save');
  expect(page.sent[0]!.body).toMatchObject({ emergencyAddress: { street: '', city: '', country: 'US' } });
  expect(page.text()).toContain('Type the city.');
  await page.press('No address of its own');
  expect(page.text()).not.toContain('Type the city.');
});

test('what is saved keeps the keys beside the display as they are', async () => {
  await open(phone(), { 'PUT /api/phones/f': phone({ version: 7 }) });
  await page.fill('Transport', 'UDP');
  expect(page.text()).toContain('Messages can be read on the way. TLS cannot.');
  await page.press('Save');
  expect(page.sent[0]).toMatchObject({
    version: '"6"',
    body: { transport: 'udp', lineKeys: [{ does: 'x' }] },
  });
});

test('a trunk that is deactivated is offered only to the phone that dials over it', async () => {
  await open(phone());
  expect(options('phone-trunk')).toEqual(['over the trunks of the dialling rules', 'over Sound Telecom']);
  page.close();
  await open(phone({ dialTrunkId: 'o' }));
  expect(options('phone-trunk')).toContain('over Old line');
});

test('without a number shown it is said what the other side sees', async () => {
  await open(phone());
  expect(page.text()).toContain('they read as unknown, and many people do not pick up');
});

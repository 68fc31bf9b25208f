// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { GroupMember, RingGroupView } from '@night-bell/core/contracts/ring-groups';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import RingGroupsPage from './RingGroupsPage.vue';
import { ringGroupArea } from './words.ts';

let page: OpenPage;
afterEach(() => page.close());

const ada = '01890000-0000-7000-8000-00000000000a';
const watch = '01890000-0000-7000-8000-00000000000b';
const entry = { extension: null, second: null, retired: false };
const entries = [
  { ...entry, id: ada, kind: 'person', name: 'Ada Porter', extension: '2104' },
  { ...entry, id: watch, kind: 'outside', name: 'Night watch' },
  { ...entry, id: 'x', kind: 'queue', name: 'Bookings' },
];
const group = (more: Partial<RingGroupView> = {}): RingGroupView => ({
  ...{ id: 'g', version: 4, retired: false, name: 'Quay', extension: '4301', order: 'allAtOnce', rounds: 2 },
  ...{ targets: [{ kind: 'person', id: ada, seconds: 15 }], shows: 'caller', voicemailBoxId: 'b' },
  ...{ whenUnanswered: null, whenBusy: { kind: 'queue', id: 'x' }, whenOutage: null, peopleCount: 1 },
  ...more,
});
const member = (more: Partial<GroupMember> = {}): GroupMember => ({
  ...{ personId: ada, name: 'Ada Porter', takesPart: true, canRing: true },
  ...more,
});
const open = async (
  groups: RingGroupView[],
  answers: Answers = {},
  { at = '/ring-groups/g', role = 'administrator' } = {},
) => {
  page = await openPage(
    RingGroupsPage,
    {
      'GET /api/ring-groups': groups,
      'GET /api/directory': entries,
      ...(groups[0] === undefined
        ? {}
        : {
            'GET /api/ring-groups/g': { item: groups[0], usedBy: [] },
            'GET /api/ring-groups/g/members': [member()],
            'GET /api/items/g/history': [],
          }),
      ...answers,
    },
    { at, role },
  );
};

test('the list says how each rings and where nobody lifting leads; without any it says what one is', async () => {
  await open(
    [group(), group({ id: 'h', name: 'Empty', targets: [], peopleCount: 0, order: 'roundRobin' })],
    {},
    {
      at: '/ring-groups',
    },
  );
  expect(page.text()).toContain('2 ring groups');
  expect(page.text()).toContain('its own voicemail box');
  expect(page.text()).toContain('Nobody in it yet');
  page.close();
  await open([], {}, { at: '/ring-groups' });
  expect(page.text()).toContain(
    'No ring group yet. In one a few phones ring together or in turn, and nobody waits.',
  );
});

test('seconds, rounds and ways out are changed and saved with the version that was seen', async () => {
  await open([group()], { 'PUT /api/ring-groups/g': group({ version: 5 }) });
  await page.fill('Seconds Ada Porter rings', '25');
  await page.fill('Rounds, 1 to 5', '3');
  await page.fill('Rings', 'in turn, behind who answered last');
  await page.press('Save');
  expect(page.sent).toMatchObject([{ method: 'PUT', version: '"4"' }]);
  expect(page.sent[0]!.body).toMatchObject({
    ...{ order: 'roundRobin', rounds: 3, targets: [{ kind: 'person', id: ada, seconds: 25 }] },
    whenBusy: { kind: 'queue', id: 'x' },
  });
  expect(page.sent[0]!.body).not.toHaveProperty('voicemailBoxId');
});

test('seconds beyond what a phone rings are left as they were', async () => {
  await open([group()]);
  await page.fill('Seconds Ada Porter rings', '500');
  expect(page.text()).not.toContain('Leave as it was');
});

test('a new one is made with whoever was found, and a fault of one of them stands under them', async () => {
  await open(
    [],
    {
      'POST /api/ring-groups': new Refusal(422, 'invalidInput', 'A field is wrong.', [
        { path: '/targets/0', detail: 'Ada Porter is deactivated and would never ring.' },
      ]),
    },
    { at: '/ring-groups' },
  );
  await page.press('New ring group');
  await page.fill('Name', 'Slip');
  expect(page.text()).toContain('Nobody yet.');
  await page.press(/^Make /);
  expect(page.sent[0]!.body).toMatchObject({ name: 'Slip', targets: [], whenUnanswered: null });
  expect(page.text()).toContain('Ada Porter is deactivated and would never ring.');
});

test('who takes part is seen and changed here, and read again when somebody changed it elsewhere', async () => {
  let takesPart = true;
  await open([group()], {
    'GET /api/ring-groups/g/members': () => [
      member({ takesPart }),
      member({ personId: 'y', name: 'Ben', canRing: false }),
    ],
    [`PUT /api/ring-groups/g/members/${ada}`]: null,
  });
  expect(page.text()).toContain('cannot be rung now');
  takesPart = false;
  await page.press('Let sit out');
  expect(page.sent).toMatchObject([{ method: 'PUT', body: { takesPart: false } }]);
  expect(page.said()).toBe('Ada Porter sits out of Quay.');
  expect(page.text()).toContain('1 sits out');
  takesPart = true;
  useLive().changedItems = [{ kind: 'ringGroup', id: 'g' }];
  await page.settled();
  expect(page.text()).not.toContain('1 sits out');
});

test('an auditor reads and changes nothing; an exchange that is away can be asked again', async () => {
  const away = new Refusal(503, 'exchangeAway', 'The exchange is not answering.');
  await open([group()], { 'GET /api/ring-groups/g/members': away }, { role: 'auditor' });
  expect(page.text()).toContain('The exchange could not be asked.');
  expect(page.text()).not.toContain('Let sit out');
  expect(page.shown.find('[aria-label="Seconds Ada Porter rings"]').attributes('readonly')).toBeDefined();
});

test('the history reads in words', async () => {
  await open([], {}, { at: '/ring-groups' });
  const { show } = ringGroupArea((id) => (id === ada ? 'Ada' : 'Bookings'));
  expect(show('targets', [{ kind: 'person', id: ada, seconds: 15 }])).toBe('Ada 15 s');
  expect(show('targets', [])).toBe('nobody');
  expect([show('order', 'inTurn'), show('shows', 'caller'), show('rounds', 2)]).toEqual([
    'in turn',
    'the caller',
    '2',
  ]);
  expect([show('whenUnanswered', null), show('whenBusy', null)]).toEqual([
    'its own voicemail box',
    'as when nobody lifts',
  ]);
  expect(show('whenBusy', { kind: 'end' })).toBe('told that nobody can take the call');
  expect(show('whenOutage', { kind: 'queue', id: 'x' })).toBe('Bookings');
});

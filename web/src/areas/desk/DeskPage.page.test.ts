// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { type AgentLive, type CallLive, useLive } from '../../shell/live.ts';
import DeskPage from './DeskPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const desk = {
  ...{ awayReasons: ['break', 'lunch'], lastCalls: [] },
  phones: [{ id: 'f', kind: 'device', model: 'softphone', account: 'ines', home: false, e164: null }],
};
const deskCall = {
  ...{ campaignName: null, queueName: 'Bookings', sourceName: null, script: 'Good morning.' },
  ...{ outcomes: [{ name: 'Booked', good: true }], given: null, record: null, fields: {} },
};
const open = async (answers: Answers = {}) => {
  page = await openPage(
    DeskPage,
    {
      ...{ 'GET /api/desk': desk, 'GET /api/texts': [], 'GET /api/desk/calls/c': deskCall },
      ...{ 'GET /api/desk/ways': [], 'GET /api/desk/ring-groups': [], ...answers },
    },
    { role: 'agent', at: '/desk' },
  );
};
async function am(more: Partial<AgentLive>): Promise<void> {
  useLive().agents.set('me', {
    ...{
      personId: 'me',
      name: 'Rowan',
      state: 'available',
      since: Date.now(),
      awayReason: null,
      callIds: [],
    },
    ...{ phone: 'registered', reachedBy: 'softphone', chosenPhoneId: 'f', wrapUpUntil: null, line: null },
    ...more,
  } as unknown as AgentLive);
  await page.settled();
}
async function call(more: Partial<CallLive> | null): Promise<void> {
  if (more === null) useLive().calls.delete('c');
  else
    useLive().calls.set('c', {
      ...{
        callId: 'c',
        direction: 'inbound',
        stage: 'ringing',
        personId: 'me',
        phoneId: 'f',
        consulted: null,
      },
      ...{ from: '+13605550117', to: '+12065550140', callerName: null, arrivedAt: Date.now(), queueId: 'q' },
      ...more,
    } as unknown as CallLive);
  await page.settled();
}

test('whoever is signed out chooses a phone and signs in; away says for what', async () => {
  await open({ 'POST /api/desk/state': null });
  await am({ state: 'signedOut' });
  expect(page.text()).toContain('Choose your phone and sign in; calls come by themselves.');
  await page.press('Sign in to the queues');
  expect(page.sent.at(-1)!.body).toEqual({ state: 'available' });
  await am({ state: 'away', awayReason: 'lunch' });
  expect(page.text()).toContain('Away, lunch for');
  await page.press('Back');
  expect(page.sent).toHaveLength(2);
});

test('without a phone that can be reached it says what to do', async () => {
  await open();
  await am({ reachedBy: null });
  expect(page.text()).toContain('None of your phones can be reached.');
});

test('a call that rings is shown with its script, and declined by its key', async () => {
  await open({ 'POST /api/desk/calls/c/decline': null });
  await am({ state: 'ringing' });
  await call({});
  expect(page.text()).toContain('Good morning.');
  await page.key('d');
  expect(page.sent.at(-1)!.path).toBe('/api/desk/calls/c/decline');
});

test('a call that is over stays until its outcome is given; then the wrap-up ends', async () => {
  await open({ 'PUT /api/desk/calls/c/outcome': null, 'POST /api/desk/state': null });
  await am({ state: 'talking' });
  await call({ stage: 'talking' });
  await call(null);
  await am({ state: 'wrappingUp', wrapUpUntil: Date.now() + 12_000 });
  expect(page.text()).toContain('Wrap-up');
  await page.press('Booked');
  await page.press('Save and go on');
  expect(page.sent.map(({ path, body }) => [path, (body as { state?: string }).state])).toEqual([
    ['/api/desk/calls/c/outcome', undefined],
    ['/api/desk/state', 'wrapUpOver'],
  ]);
  expect(page.text()).not.toContain('Save and go on');
});

test('who was only told of a caller has nothing to say of how it ended', async () => {
  await open();
  await am({});
  await call({
    personId: 'other',
    stage: 'talking',
    consulted: { personId: 'me', rings: false, phoneId: 'f' } as never,
  });
  await call(null);
  expect(page.text()).toContain('Script, record and outcome of a call appear here when it rings.');
});

test('what cannot be done now is said', async () => {
  await open({ 'POST /api/desk/state': new Refusal(409, 'notNow', 'All 12 rented seats are in use.') });
  await am({ state: 'signedOut' });
  await page.press('Sign in to the queues');
  expect(page.said()).toBe('All 12 rented seats are in use.');
});

test('the ring groups one is in are left and joined again; who is in none sees nothing of them', async () => {
  await open();
  await am({});
  expect(page.text()).not.toContain('Ring groups');
  page.close();
  let takesPart = true;
  await open({
    'GET /api/desk/ring-groups': () => [{ id: 'g', name: 'Quay', takesPart }],
    'PUT /api/desk/ring-groups/g': null,
  });
  await am({});
  takesPart = false;
  await page.fill('Quay', false);
  expect(page.sent).toMatchObject([{ method: 'PUT', body: { takesPart: false } }]);
  expect(page.said()).toBe('You sit out of Quay.');
  expect(page.text()).toContain('Quay, sitting out');
  takesPart = true;
  await page.fill('Quay, sitting out', true);
  expect(page.said()).toBe('You take part in Quay again.');
});

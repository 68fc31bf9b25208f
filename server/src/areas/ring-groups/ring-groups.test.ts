import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { CodeView } from '@night-bell/core/contracts/codes';
import type { GroupMember, OwnGroup, RingGroupView } from '@night-bell/core/contracts/ring-groups';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';

interface Refusal {
  detail: string;
  errors: { path: string; detail: string }[];
}
interface Member {
  id: string;
  browser: Browser;
  account: string;
}

let night: NightBell;
let admin: Browser;
let drop: () => Promise<void>;
let ada: Member;
let ben: Member;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, drop } = await openNight(gateway));
  ada = await member('Ada Porter');
  ben = await member('Ben Porter');
});
afterAll(() => drop());

async function member(name: string): Promise<Member> {
  const { browser, made } = await personSignedIn(night, admin, name, 'agent');
  const { account, registrationSecret } = made.phone!;
  await night.live.settled();
  expect(await gateway.register(account, registrationSecret)).toBe(200);
  return { id: made.id, browser, account };
}
const person = (id: string, seconds = 20) => ({ kind: 'person', id, seconds });
const make = <T = RingGroupView>(draft: object) => admin.send<T>('POST', '/api/ring-groups', draft);
const change = <T = RingGroupView>(group: RingGroupView, draft: object) =>
  admin.send<T>('PUT', `/api/ring-groups/${group.id}`, draftOf({ ...group, ...draft }), {
    'if-match': `"${group.version}"`,
  });
const draftOf = ({
  id: _id,
  version: _v,
  retired: _r,
  voicemailBoxId: _b,
  peopleCount: _p,
  ...draft
}: RingGroupView) => draft;
const known = (id: string, name?: string) =>
  until(() => {
    const group = night.live.exchange.view().ringGroups.get(id);
    return group !== undefined && (name === undefined || group.item.name === name);
  }, 'the exchange knows the group');
/** Calls an extension; the devices that ring for it. */
async function call(to: string): Promise<string> {
  const ref = `${to}-${Math.random()}`;
  gateway.heard.length = 0;
  gateway.say({ kind: 'call', ref, to, from: '+13605550117' });
  return (await gateway.wait('callAccepted', (message) => message.ref === ref)).callId;
}
/** Deactivates a person, as the page does. */
async function retire(id: string): Promise<void> {
  const { person: one } = (await admin.send<{ person: { version: number } }>('GET', `/api/people/${id}`))
    .body;
  const tag = { 'if-match': `"${one.version}"` };
  expect((await admin.send('POST', `/api/people/${id}/retire`, undefined, tag)).status).toBe(200);
}
const hangUp = async (callId: string) => {
  gateway.say({ kind: 'callerHungUp', callId });
  await until(() => !night.live.exchange.view().calls.has(callId), 'the call is over');
};

describe('a ring group', () => {
  test('is made with a voicemail box of its own, rings its people, and what nobody lifts is left there', async () => {
    const { body: group, status } = await make({
      ...{ name: 'Night porter', extension: '4301', shows: 'numberDialled' },
      targets: [person(ada.id, 3), person(ben.id, 3)],
    });
    expect([status, group]).toMatchObject([
      200,
      { peopleCount: 2, order: 'allAtOnce', whenUnanswered: null },
    ]);
    await known(group.id);
    const callId = await call('4301');
    const rings = [ada, ben].map(({ account }) => gateway.wait('ring', (ring) => ring.device === account));
    expect((await Promise.all(rings)).map(({ shows }) => shows)).toEqual([['4301'], ['4301']]);
    await gateway.wait('record', (message) => message.callId === callId);
    const { activity } = night.live.exchange.view().calls.get(callId)!;
    expect(activity).toMatchObject({ kind: 'recording', boxId: group.voicemailBoxId });
    const floor = await admin.send<{ calls: object[] }>('GET', '/api/floor');
    expect(floor.body.calls).toMatchObject([{ callId, ringGroupId: group.id }]);
    await hangUp(callId);
    const callsOf = async (id: string) =>
      (await admin.send<{ calls: object[] }>('GET', `/api/calls?ringGroupId=${id}`)).body.calls;
    await until(async () => (await callsOf(group.id)).length === 1, 'the call is among those of the group');
    expect(await callsOf(group.id)).toMatchObject([{ id: callId, ringGroupName: 'Night porter' }]);
    expect(await callsOf(group.voicemailBoxId)).toEqual([]);

    // Renamed, its box follows; its people hear what is in it, and others do not.
    const renamed = (await change(group, { name: 'Night watch' })).body;
    await known(group.id, 'Night watch');
    const boxes = await ada.browser.send<{ boxes: { id: string; name: string }[] }>('GET', '/api/voicemail');
    expect(JSON.stringify(boxes.body)).toContain('Night watch voicemail');
    expect((await ada.browser.send('GET', '/api/ring-groups')).status).toBe(403);
    const back = await admin.send<RingGroupView[]>('GET', '/api/ring-groups');
    expect(back.body).toMatchObject([{ id: group.id, name: 'Night watch', version: renamed.version }]);
  });

  test('is a destination of numbers, and goes when nothing leads to it any more', async () => {
    const { body: group } = await make({ name: 'Terminal', targets: [person(ada.id)] });
    const number = {
      ...{ e164: '+12065550141', label: 'Terminal' },
      destination: { kind: 'ringGroup', id: group.id },
    };
    expect((await admin.send('POST', '/api/numbers', number)).status).toBe(200);
    const retire = () =>
      admin.send<Refusal>('POST', `/api/ring-groups/${group.id}/retire`, undefined, {
        'if-match': `"${group.version}"`,
      });
    expect((await retire()).body.detail).toContain('Terminal');
    const { body: shown } = await admin.send<{ usedBy: { name: string }[] }>(
      'GET',
      `/api/ring-groups/${group.id}`,
    );
    expect(shown.usedBy).toMatchObject([{ name: 'Terminal' }]);
  });

  test('is refused with a sentence at the place of the fault, and nothing is saved', async () => {
    const said = async (draft: object) => {
      const { status, body } = await make<Refusal>({ name: 'Faulty', ...draft });
      expect(status).toBe(422);
      return body.errors[0];
    };
    expect(await said({ targets: [person(ada.id), person(ada.id)] })).toMatchObject({
      path: '/targets',
      detail: 'Somebody is in it twice. Take one of them out.',
    });
    expect(await said({ targets: [person(crypto.randomUUID())] })).toMatchObject({ path: '/targets/0' });
    expect(await said({ targets: [{ ...person(ada.id), kind: 'team' }] })).toMatchObject({
      path: '/targets/0',
    });
    expect(await said({ targets: [person(ada.id, -3)] })).toMatchObject({ path: '/targets/0/seconds' });
    expect(await said({ targets: [{ ...person(ada.id), seconds: 'twenty' }] })).toMatchObject({
      path: '/targets/0/seconds',
    });
    expect(await said({ rounds: 9 })).toMatchObject({
      path: '/rounds',
      detail: 'A whole number from 1 to 5.',
    });
    const many = Array.from({ length: 10_000 }, () => person(crypto.randomUUID()));
    expect(await said({ targets: many })).toMatchObject({ path: '/targets', detail: 'At most 20 of these.' });
    const gone = (await admin.send<{ id: string }>('POST', '/api/people', { name: 'Gone Away' })).body;
    await retire(gone.id);
    expect(await said({ targets: [person(gone.id)] })).toMatchObject({
      path: '/targets/0',
      detail: expect.stringContaining('Gone Away is deactivated and would never ring.') as string,
    });
    expect((await admin.send<unknown[]>('GET', '/api/ring-groups?search=faulty')).body).toEqual([]);
  });

  test('leads neither to itself nor in a round over others', async () => {
    const { body: one } = await make({ name: 'Round one' });
    const { body: two } = await make({ name: 'Round two', whenBusy: { kind: 'ringGroup', id: one.id } });
    const to = (id: string) => ({ kind: 'ringGroup', id });
    expect(
      (await change<Refusal & RingGroupView>(one, { whenOutage: to(one.id) })).body.errors,
    ).toMatchObject([{ path: '/whenOutage', detail: 'A ring group cannot send its callers to itself.' }]);
    const round = await change<Refusal & RingGroupView>(one, { whenUnanswered: to(two.id) });
    expect(round.body.errors).toMatchObject([
      {
        path: '/whenUnanswered',
        detail:
          'Callers would go round: Round one, then Round two, then Round one. Let one of them lead elsewhere.',
      },
    ]);
    const queue = await admin.send<{ id: string }>('POST', '/api/queues', {
      ...{ name: 'Round queue', members: [], whenNobody: to(one.id) },
    });
    const over = await change<Refusal & RingGroupView>(one, {
      whenBusy: { kind: 'queue', id: queue.body.id },
    });
    expect(over.body.errors[0]!.detail).toContain('Round queue');
  });
});

describe('who takes part', () => {
  let group: RingGroupView;
  beforeAll(async () => {
    group = (await make({ name: 'Quay', extension: '4302', targets: [person(ada.id), person(ben.id)] })).body;
    await known(group.id);
  });
  const members = async () =>
    (await admin.send<GroupMember[]>('GET', `/api/ring-groups/${group.id}/members`)).body.map(
      ({ name, takesPart, canRing }) => [name, takesPart, canRing],
    );

  test('is said by the sheet, by the desk and by a code; calls ring whoever does', async () => {
    expect(await members()).toEqual([
      ['Ada Porter', true, true],
      ['Ben Porter', true, true],
    ]);
    const path = `/api/ring-groups/${group.id}/members/${ada.id}`;
    expect((await admin.send('PUT', path, { takesPart: false })).status).toBe(204);
    expect((await members())[0]).toEqual(['Ada Porter', false, true]);
    const own = () => ada.browser.send<OwnGroup[]>('GET', '/api/desk/ring-groups');
    expect((await own()).body).toContainEqual({ id: group.id, name: 'Quay', takesPart: false });
    const callId = await call('4302');
    await gateway.wait('ring', (ring) => ring.device === ben.account);
    expect(gateway.heard.filter(({ kind }) => kind === 'ring')).toHaveLength(1);
    await hangUp(callId);

    const desk = `/api/desk/ring-groups/${group.id}`;
    expect((await ada.browser.send('PUT', desk, { takesPart: true })).status).toBe(204);
    expect((await members())[0]).toEqual(['Ada Porter', true, true]);

    const draft = { name: 'Sit out', digits: '*55', does: 'takePart', groupIds: [group.id] };
    const code = await admin.send<CodeView>('POST', '/api/service-codes', {
      ...{ ...draft, hoursIds: [], forHours: 1, teamIds: [] },
    });
    expect(code.status).toBe(200);
    await until(() => night.live.exchange.view().codes.has(code.body.id), 'the exchange knows the code');
    gateway.say({ kind: 'call', ref: 'out', to: '*55', from: ben.account, device: ben.account });
    const { words } = await gateway.wait('say', () => true);
    expect(words).toBe('You sit out of Quay.');
    expect((await members())[1]).toEqual(['Ben Porter', false, true]);
  });

  test('is nobody’s choice but theirs and of who directs them, and of members only', async () => {
    const other = await personSignedIn(night, admin, 'Cora Elsewhere', 'agent');
    const refused = await other.browser.send<Refusal>('PUT', `/api/desk/ring-groups/${group.id}`, {
      takesPart: false,
    });
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('no member')]);
    const path = `/api/ring-groups/${group.id}/members/${ada.id}`;
    expect((await other.browser.send('PUT', path, { takesPart: false })).status).toBe(403);
    expect((await admin.send('PUT', path, { takesPart: 'no' })).status).toBe(422);
    expect((await admin.send('GET', `/api/ring-groups/${crypto.randomUUID()}/members`)).status).toBe(404);
  });

  test('a caller is handed over to a group from the desk, and its phones ring', async () => {
    for (const { id } of [ada, ben])
      await admin.send('PUT', `/api/ring-groups/${group.id}/members/${id}`, { takesPart: true });
    const { body: one } = await admin.send<{ person: { extension: string } }>('GET', `/api/people/${ada.id}`);
    const callId = await call(one.person.extension);
    const { leg } = await gateway.wait('ring', (ring) => ring.device === ada.account);
    gateway.say({ kind: 'answered', leg });
    const state = () => night.live.exchange.view();
    await until(() => state().calls.get(callId)?.activity.kind === 'bridged', 'they talk');
    const { body: ways } = await ada.browser.send<{ id: string; kind: string }[]>(
      ...(['GET', '/api/desk/ways?search=quay'] as const),
    );
    expect(ways).toMatchObject([{ kind: 'ringGroup', id: group.id }]);
    const to = { kind: 'ringGroup', id: group.id };
    expect((await ada.browser.send('POST', `/api/desk/calls/${callId}/hand-over`, { to })).status).toBe(204);
    await gateway.wait('ring', (ring) => ring.device === ben.account);
    await hangUp(callId);
  });

  test('stands after a restart as it was', async () => {
    await admin.send('PUT', `/api/ring-groups/${group.id}/members/${ada.id}`, { takesPart: false });
    const snapshot = JSON.parse(JSON.stringify(night.live.exchange.snapshot())) as {
      slices: { groups: { data: { item: { name: string }; sitOut: string[] }[] } };
    };
    const saved = snapshot.slices.groups.data.find(({ item }) => item.name === 'Quay')!;
    expect(saved.sitOut).toContain(ada.id);
  });
});

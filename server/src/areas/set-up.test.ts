import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import { type Answer, Browser, openNight, password, personSignedIn } from '../server.testing.ts';
import type { NumberView } from './numbers/store.ts';
import type { NewPerson } from './people/create.ts';
import type { PersonView } from './people/store.ts';
import type { QueueView } from '@night-bell/core/contracts/queues';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
  current?: QueueView;
  usedBy?: { name: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
});
afterAll(() => drop());

const match = (version: number) => ({ 'if-match': `"${version}"` });
const post = <T = Refusal>(url: string, body: unknown = {}, headers = {}): Promise<Answer<T>> =>
  admin.send<T>('POST', url, body, headers);
const put = <T = Refusal>(url: string, body: unknown, version: number): Promise<Answer<T>> =>
  admin.send<T>('PUT', url, body, match(version));
const makePerson = async (name: string, more = {}) =>
  (await post<NewPerson>('/api/people', { name, ...more })).body;
const makeQueue = async (name: string, more = {}) =>
  (await post<QueueView>('/api/queues', { name, ...more })).body;
const person = async (id: string) =>
  (await admin.send<{ person: PersonView }>('GET', `/api/people/${id}`)).body.person;

describe('people', () => {
  test('one form makes login, extension, phone, voicemail and codes; the proposal is what is made', async () => {
    const team = (await post<{ id: string }>('/api/teams', { name: 'Bookings' })).body;
    const proposal = (
      await admin.send<{ login: string; extension: string }>(
        'GET',
        `/api/people/proposal?name=Inès%20Calloway&teamId=${team.id}`,
      )
    ).body;
    const made = await makePerson('Inès Calloway', { teamId: team.id });
    expect(made).toMatchObject({
      login: proposal.login,
      extension: proposal.extension,
      phone: { account: `s${proposal.extension}` },
    });
    expect(made.login).toBe('ines.calloway');
    expect(made.phone!.registrationSecret.length).toBeGreaterThanOrEqual(24);
    const next = await makePerson('Inès Calloway', { teamId: team.id });
    expect([next.login, Number(next.extension)]).toEqual(['ines.calloway2', Number(made.extension) + 1]);
    expect(await person(made.id)).toMatchObject({
      teamName: 'Bookings',
      role: 'agent',
      hasOwnPassword: false,
      retired: false,
    });
  });

  test('a taken or impossible extension is refused at its field, and nothing is half made', async () => {
    const { extension } = await makePerson('First Holder');
    const before = (await admin.send<PersonView[]>('GET', '/api/people')).body.length;
    const taken = await post('/api/people', { name: 'Second', extension });
    expect([taken.status, taken.body.errors[0]!.path]).toEqual([409, '/extension']);
    expect(taken.body.detail).toMatch(/First Holder. Next free: \d+/);
    for (const bad of ['911', '7', 'abc']) {
      expect((await post('/api/people', { name: 'Second', extension: bad })).body.errors).toMatchObject([
        { path: '/extension' },
      ]);
    }
    expect((await post('/api/people', { name: '' })).body.errors).toEqual([
      { path: '/name', detail: 'A name is needed.' },
    ]);
    expect((await admin.send<PersonView[]>('GET', '/api/people')).body).toHaveLength(before);
  });

  test('change, take back, deactivate, reactivate', async () => {
    const made = await makePerson('Changing Name');
    const {
      id,
      version,
      retired: _r,
      teamName: _t,
      hasOwnPassword: _h,
      phones: _p,
      voicemailBoxId: _v,
      queues: _q,
      ...draft
    } = await person(made.id);
    expect(
      (await put(`/api/people/${id}`, { ...draft, name: 'Changed Name', ringSeconds: 30 }, version)).status,
    ).toBe(200);
    const history = (
      await admin.send<{ id: number; what: string; fields: { field: string }[] }[]>(
        'GET',
        `/api/items/${id}/history`,
      )
    ).body;
    expect(history[0]).toMatchObject({
      what: 'changed',
      fields: [{ field: 'name' }, { field: 'ringSeconds' }],
    });
    expect((await post(`/api/changes/${history[0]!.id}/take-back`)).status).toBe(204);
    expect(await person(id)).toMatchObject({ name: 'Changing Name', ringSeconds: 20, version: version + 2 });
    expect((await post(`/api/changes/${history[0]!.id}/take-back`)).body.code).toBe('notNow');
    expect((await post(`/api/people/${id}/retire`, {}, match(version + 2))).status).toBe(200);
    expect(await new Browser(night).signIn(made.login, made.signInCode)).toBe(401);
    expect((await post(`/api/people/${id}/reactivate`, {}, match(version + 3))).status).toBe(200);
    expect((await person(id)).retired).toBe(false);
  });

  test('nobody raises their own rights, locks out the last administrator or deactivates themselves', async () => {
    const me = (await admin.send<{ person: { id: string } }>('GET', '/api/session')).body.person.id;
    const { version, name, login, extension, teamId, callLimit, ringSeconds, signInWithPhone } =
      await person(me);
    const draft = { name, login, extension, teamId, callLimit, ringSeconds, signInWithPhone, role: 'agent' };
    expect((await put(`/api/people/${me}`, draft, version)).body.detail).toMatch(/last administrator/);
    expect((await post(`/api/people/${me}/retire`, {}, match(version))).body.code).toBe('notNow');
    const { browser, made } = await personSignedIn(night, admin, 'Second Admin', 'administrator');
    const second = await person(made.id);
    const own = await browser.send<Refusal>(
      'PUT',
      `/api/people/${made.id}`,
      {
        ...draft,
        name: 'Second Admin',
        login: second.login,
        extension: second.extension,
        role: 'supervisor',
      },
      match(second.version),
    );
    expect(own.body.errors[0]!.path).toBe('/role');
  });

  test('a new sign-in code ends the old password and every sign-in', async () => {
    const { browser, made } = await personSignedIn(night, admin, 'Forgot Password', 'agent');
    const { signInCode } = (await post<{ signInCode: string }>(`/api/people/${made.id}/code`)).body;
    expect((await browser.send('GET', '/api/calls')).status).toBe(401);
    expect(await new Browser(night).signIn(made.login, password)).toBe(401);
    expect(await new Browser(night).signIn(made.login, signInCode)).toBe(204);
  });
});

describe('queues and numbers', () => {
  test('a number says which campaigns show it as their caller ID', async () => {
    const number = (await post<NumberView>('/api/numbers', { e164: '+1 206 555 0163', label: 'Shown' })).body;
    const { body: campaign } = await post<{ id: string }>('/api/campaigns', {
      name: 'Shows it',
      numberId: number.id,
    });
    const answer = await admin.send<{ usedBy: { id: string; how: string }[] }>(
      'GET',
      `/api/numbers/${number.id}`,
    );
    expect(answer.body.usedBy).toMatchObject([{ id: campaign.id, how: 'caller ID' }]);
  });

  test('limits left open lead to the queue’s own voicemail box', async () => {
    const queue = await makeQueue('Open ends', { extension: '4001' });
    expect(queue.whenFull).toEqual({ kind: 'voicemail', id: queue.voicemailBoxId });
    expect(queue.whenNobody).toEqual(queue.whenFull);
  });

  test('two people editing the same queue: the second is told, sees both versions, loses nothing', async () => {
    const queue = await makeQueue('Contested');
    const { id, version, retired: _r, voicemailBoxId: _v, peopleCount: _p, ...draft } = queue;
    expect((await put(`/api/queues/${id}`, { ...draft, ringSeconds: 25 }, version)).status).toBe(200);
    const second = await put(`/api/queues/${id}`, { ...draft, wrapUpSeconds: 60 }, version);
    expect([second.status, second.body.code]).toEqual([412, 'changedMeanwhile']);
    expect(second.body.detail).toContain('Ada Admin');
    expect(second.body.current).toMatchObject({ ringSeconds: 25, wrapUpSeconds: 20, version: version + 1 });
    expect(
      (await put(`/api/queues/${id}`, { ...draft, ringSeconds: 25, wrapUpSeconds: 60 }, version + 1)).status,
    ).toBe(200);
    expect((await admin.send<Refusal>('PUT', `/api/queues/${id}`, draft)).body.code).toBe('versionNeeded');
  });

  test('a deactivated member, a loop to itself, a taken name and a wrong figure are refused at their fields', async () => {
    const gone = await makePerson('Gone Member');
    await post(`/api/people/${gone.id}/retire`, {}, match(1));
    const refused = await post('/api/queues', { name: 'With ghost', members: [gone.id] });
    expect(refused.body.errors).toMatchObject(
      [{ path: '/members/0', detail: /Gone Member is deactivated/ as never }].map(({ path }) => ({ path })),
    );
    expect(refused.body.detail).toContain('Gone Member is deactivated');
    const queue = await makeQueue('Self');
    const { id, version, retired: _r, voicemailBoxId: _v, peopleCount: _p, ...draft } = queue;
    expect(
      (await put(`/api/queues/${id}`, { ...draft, whenFull: { kind: 'queue', id } }, version)).body.errors[0]!
        .path,
    ).toBe('/whenFull');
    expect((await post('/api/queues', { name: 'self' })).body.errors[0]!.path).toBe('/name');
    expect((await post('/api/queues', { name: 'Odd', ringSeconds: 1 })).body.errors).toEqual([
      { path: '/ringSeconds', detail: 'Whole seconds from 5 to 120.' },
    ]);
  });

  test('a queue a number leads to cannot be deactivated; the refusal says what leads there', async () => {
    const queue = await makeQueue('In use');
    const number = (
      await post<NumberView>('/api/numbers', {
        e164: '(206) 555-0123',
        label: 'To it',
        destination: { kind: 'queue', id: queue.id },
      })
    ).body;
    expect(number.e164).toBe('+12065550123');
    const refused = await post(`/api/queues/${queue.id}/retire`, {}, match(queue.version));
    expect([refused.status, refused.body.code, refused.body.usedBy!.map((user) => user.name)]).toEqual([
      409,
      'inUse',
      ['To it'],
    ]);
    await put(
      `/api/numbers/${number.id}`,
      { e164: number.e164, label: 'To it', destination: null },
      number.version,
    );
    expect((await post(`/api/queues/${queue.id}/retire`, {}, match(queue.version))).status).toBe(200);
    expect(
      (
        await post('/api/numbers', {
          e164: '+12065550124',
          label: 'Ghost',
          destination: { kind: 'queue', id: queue.id },
        })
      ).body.errors[0]!.path,
    ).toBe('/destination');
  });

  test('numbers that are none, or ours already, are refused; a number given up can be taken again', async () => {
    for (const e164 of ['12', 'call me', '+1 360 555']) {
      expect((await post('/api/numbers', { e164, label: 'x' })).body.errors[0]!.path).toBe('/e164');
    }
    const number = (await post<NumberView>('/api/numbers', { e164: '+12065550125', label: 'Once' })).body;
    expect((await post('/api/numbers', { e164: '206 555 0125', label: 'Twice' })).body.detail).toContain(
      'as Once',
    );
    expect((await post(`/api/numbers/${number.id}/give-up`, {}, match(1))).status).toBe(204);
    expect((await post('/api/numbers', { e164: '+12065550125', label: 'Again' })).status).toBe(200);
  });

  test('markup in a name stays text', async () => {
    const { id } = await makePerson('<img src=x onerror=alert(1)>');
    expect((await person(id)).name).toBe('<img src=x onerror=alert(1)>');
  });
});

test('a test call answers with a sentence for an unknown caller format', async () => {
  const refused = await post('/api/test-calls', { to: '+12065550123', from: 'unknown' });
  expect([refused.status, refused.body.errors[0]!.path]).toEqual([422, '/from']);
});

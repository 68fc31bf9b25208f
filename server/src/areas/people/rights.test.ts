import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import { Browser, openNight, password, personSignedIn, until } from '../../server.testing.ts';
import type { QueueView } from '@night-bell/core/contracts/queues';
import type { NewPerson } from './create.ts';
import type { PersonView } from './store.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
});
afterAll(() => drop());

const post = async <T = Refusal>(url: string, body: unknown = {}, who = admin) =>
  who.send<T>('POST', url, body);
const made = async <T = { id: string; name: string }>(url: string, body: unknown) =>
  (await post<T>(url, body)).body;
const person = async (id: string) =>
  (await admin.send<{ person: PersonView }>('GET', `/api/people/${id}`)).body.person;
const change = async (id: string, fields: object) => {
  const now = await person(id);
  const { name, login, extension, role, teamId, callLimit, ringSeconds, signInWithPhone } = now;
  const draft = { name, login, extension, role, teamId, callLimit, ringSeconds, signInWithPhone, ...fields };
  return admin.send<Refusal>('PUT', `/api/people/${id}`, draft, { 'if-match': `"${now.version}"` });
};

describe('a supervisor', () => {
  test('directs the teams they look after and nobody else; without any, everybody', async () => {
    const freight = await made('/api/teams', { name: 'Freight' });
    const groups = await made('/api/teams', { name: 'Groups' });
    const inFreight = await made<NewPerson>('/api/people', { name: 'In Freight', teamId: freight.id });
    const inGroups = await made<NewPerson>('/api/people', { name: 'In Groups', teamId: groups.id });
    const { browser, made: chief } = await personSignedIn(night, admin, 'Chief', 'supervisor');
    await until(async () => {
      const { status } = await post(`/api/people/${inGroups.id}/state`, { state: 'available' }, browser);
      return status === 204;
    }, 'the exchange knows the new people');
    expect((await change(chief.id, { looksAfter: [freight.id] })).status).toBe(200);
    const refused = await post(`/api/people/${inGroups.id}/state`, { state: 'signedOut' }, browser);
    expect([refused.status, refused.body.detail]).toEqual([
      403,
      'In Groups is in Groups, which you do not look after. An administrator can change that.',
    ]);
    const both = await post<{ done: number; refused: { name: string }[] }>(
      '/api/people/bulk-state',
      { ids: [inFreight.id, inGroups.id], state: { state: 'available' } },
      browser,
    );
    expect(both.body).toMatchObject({ done: 1, refused: [{ name: 'In Groups' }] });
  });

  test('cannot change the set-up', async () => {
    const { browser } = await personSignedIn(night, admin, 'No Editor', 'supervisor');
    expect((await post('/api/skills', { name: 'Any' }, browser)).status).toBe(403);
    expect((await browser.send('PUT', '/api/agent-settings', {})).status).toBe(403);
  });
});

describe('seats', () => {
  test('at the limit nobody more signs in, and the sentence says what can be done', async () => {
    const seats = (n: number | null) =>
      admin.send('PUT', '/api/agent-settings', { seats: n, awayReasons: ['break'] });
    const one = await made<NewPerson>('/api/people', { name: 'Seat Less' });
    expect((await seats(0)).status).toBe(200);
    const refused = await until(async () => {
      const answer = await post(`/api/people/${one.id}/state`, { state: 'available' });
      // The exchange did not know of the limit yet: who is signed in already would not be refused.
      if (answer.status === 204) await post(`/api/people/${one.id}/state`, { state: 'signedOut' });
      return answer.body?.detail?.includes('seats') === true ? answer : null;
    }, 'the exchange knows the seats');
    expect([refused.status, refused.body.code]).toEqual([409, 'notNow']);
    await seats(null);
    await until(
      async () => (await post(`/api/people/${one.id}/state`, { state: 'available' })).status === 204,
      'there is no limit any more',
    );
    const bad = await admin.send<Refusal>('PUT', '/api/agent-settings', {
      seats: -1,
      awayReasons: ['Lunch', 'lunch'],
    });
    expect(bad.body.errors.map((error) => error.path)).toEqual(['/seats', '/awayReasons/1']);
  });
});

describe('getting in', () => {
  test('too many guesses lock, an administrator unlocks', async () => {
    const { made: forgetful } = await personSignedIn(night, admin, 'For Getful', 'agent');
    const visitor = new Browser(night);
    for (let i = 0; i < 6; i++) await visitor.signIn(forgetful.login, 'no');
    expect(await visitor.signIn(forgetful.login, password)).toBe(429);
    const access = async () =>
      (await admin.send<{ lockedSeconds: number }>('GET', `/api/people/${forgetful.id}/access`)).body;
    expect((await access()).lockedSeconds).toBeGreaterThan(0);
    expect((await post(`/api/people/${forgetful.id}/unlock`)).status).toBe(204);
    expect((await access()).lockedSeconds).toBe(0);
  });

  test('sign-ins are seen and ended', async () => {
    const { browser, made: someone } = await personSignedIn(night, admin, 'Some One', 'agent');
    const { signIns } = (await admin.send<{ signIns: unknown[] }>('GET', `/api/people/${someone.id}/access`))
      .body;
    expect(signIns).toHaveLength(1);
    expect((await admin.send('DELETE', `/api/people/${someone.id}/sign-ins`)).status).toBe(204);
    expect((await browser.send('GET', '/api/calls')).status).toBe(401);
  });

  test('elsewhere: refused, taken over, or warned of', async () => {
    const { browser: first, made: roamer } = await personSignedIn(night, admin, 'Roa Mer', 'supervisor');
    expect((await change(roamer.id, { elsewhere: 'refuse' })).status).toBe(200);
    const second = new Browser(night);
    const refused = await second.send<Refusal>('POST', '/api/session', { login: roamer.login, password });
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('Sign out there')]);
    await change(roamer.id, { elsewhere: 'warn' });
    expect(await second.signIn(roamer.login, password)).toBe(204);
    const view = (await second.send<{ elsewhere: unknown[] }>('GET', '/api/session')).body;
    expect(view.elsewhere).toHaveLength(1);
    await change(roamer.id, { elsewhere: 'takeOver' });
    const third = new Browser(night);
    expect(await third.signIn(roamer.login, password)).toBe(204);
    expect([
      (await first.send('GET', '/api/people')).status,
      (await third.send('GET', '/api/people')).status,
    ]).toEqual([401, 200]);
  });
});

describe('several people', () => {
  test('get team, skill and queue alike, and one who cannot keeps all as they were', async () => {
    const team = await made('/api/teams', { name: 'Night' });
    const french = await made('/api/skills', { name: 'French' });
    const queue = await made<QueueView>('/api/queues', { name: 'Bulk' });
    const ids = [
      (await made<NewPerson>('/api/people', { name: 'Bulk One' })).id,
      (await made<NewPerson>('/api/people', { name: 'Bulk Two' })).id,
    ];
    const bulk = (fields: object, of = ids) => post('/api/people/bulk', { ids: of, change: fields });
    expect(
      (await bulk({ teamId: team.id, skill: { skillId: french.id, level: 4 }, joinQueueId: queue.id }))
        .status,
    ).toBe(200);
    expect(await person(ids[1]!)).toMatchObject({
      teamId: team.id,
      skills: [{ skillId: french.id, level: 4 }],
      queues: [{ name: 'Bulk' }],
    });
    const me = (await admin.send<{ person: { id: string } }>('GET', '/api/session')).body.person.id;
    const refused = await bulk({ role: 'auditor' }, [...ids, me]);
    expect(refused.body.detail).toMatch(/^Ada Admin: .*Nobody was changed\.$/);
    expect((await person(ids[0]!)).role).toBe('agent');
    expect((await bulk({ leaveQueueId: queue.id, skill: { skillId: french.id, level: null } })).status).toBe(
      200,
    );
    expect(await person(ids[0]!)).toMatchObject({ skills: [], queues: [] });
    const { batch } = (await bulk({ teamId: null })).body as unknown as { batch: string };
    expect((await person(ids[0]!)).teamId).toBeNull();
    expect((await post(`/api/batches/${batch}/take-back`)).status).toBe(204);
    expect((await person(ids[0]!)).teamId).toBe(team.id);
    expect((await bulk({})).body.errors[0]!.path).toBe('/change');
  });

  test('a new one like this one has team, settings, skills and own queues, and its own identity', async () => {
    const skill = await made('/api/skills', { name: 'Dangerous goods' });
    const queue = await made<QueueView>('/api/queues', { name: 'Like' });
    const model = await made<NewPerson>('/api/people', { name: 'Mod El' });
    await change(model.id, {
      callLimit: 3,
      startAway: true,
      wrapUpSeconds: 5,
      skills: [{ skillId: skill.id, level: 2 }],
    });
    await post('/api/people/bulk', { ids: [model.id], change: { joinQueueId: queue.id } });
    const twin = await made<NewPerson>('/api/people', { name: 'Tw In', likeId: model.id });
    expect(await person(twin.id)).toMatchObject({
      login: 'tw.in',
      callLimit: 3,
      startAway: true,
      wrapUpSeconds: 5,
      skills: [{ skillId: skill.id, level: 2 }],
      queues: [{ name: 'Like' }],
    });
    expect(twin.extension).not.toBe(model.extension);
  });
});

test('a skill is asked for by a queue, and cannot go while it is', async () => {
  const skill = await made<{ id: string; version: number }>('/api/skills', { name: 'Danish' });
  const queue = await made<QueueView>('/api/queues', {
    name: 'In Danish',
    skills: [{ skillId: skill.id, minimum: 3 }],
  });
  expect(queue.skills).toEqual([{ skillId: skill.id, minimum: 3, relaxes: [] }]);
  const refused = await admin.send<Refusal>(
    'POST',
    `/api/skills/${skill.id}/retire`,
    {},
    { 'if-match': '"1"' },
  );
  expect([refused.status, refused.body.code]).toEqual([409, 'inUse']);
});

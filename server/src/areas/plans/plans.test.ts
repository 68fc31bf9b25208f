import { afterAll, beforeAll, expect, test } from 'vitest';
import type { PlanDraft, PlanView } from '@night-bell/core/contracts/plans';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import type { PlanDocument } from '@night-bell/core/plan/document';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { publishDue } from './schedule.ts';
import { type Answer, type Browser, openNight, TestGateway, until } from '../../server.testing.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
  findings: { stepId: string; code: string }[];
  current: PlanView;
  by: string;
}

let night: NightBell;
let database: Database;
let drop: () => Promise<void>;
let admin: Browser;
let box: string;
let menuPrompt: PromptView;
let hoursId: string;
const gateway = new TestGateway();

const post = <T>(url: string, body: unknown = {}, version?: number) =>
  admin.send<T>('POST', url, body, version === undefined ? {} : { 'if-match': `"${version}"` });
const put = <T>(url: string, body: unknown, version: number) =>
  admin.send<T>('PUT', url, body, { 'if-match': `"${version}"` });
const get = async <T>(url: string) => (await admin.send<T>('GET', url)).body;

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight(gateway));
  const person = (await post<{ id: string }>('/api/people', { name: 'Pia Porter', role: 'agent' })).body;
  box = (await get<{ person: { voicemailBoxId: string } }>(`/api/people/${person.id}`)).person.voicemailBoxId;
  menuPrompt = (
    await post<PromptView>('/api/prompts', {
      ...{ name: 'Main menu', kind: 'menu', language: 'en', personId: null, words: 'For bookings, press 1.' },
    })
  ).body;
  const always = Array.from({ length: 7 }, () => [[0, 1_440]]);
  hoursId = (
    await post<{ id: string }>('/api/opening-hours', {
      name: 'Office',
      zone: 'UTC',
      weekly: always,
      days: [],
    })
  ).body.id;
});
afterAll(() => drop());

/** Hours, then a menu of one key that leads to voicemail. */
const mainLine = (): PlanDocument => ({
  start: 's1',
  steps: {
    s1: { kind: 'hours', config: { hoursId }, exits: { open: 's2', closed: 's3' } },
    s2: {
      kind: 'keys',
      config: { promptId: menuPrompt.id, keys: [{ key: '1', label: 'bookings' }], waitSeconds: 5, tries: 2 },
      exits: { key1: 's3', noKey: 's3' },
    },
    s3: { kind: 'voicemail', config: { boxId: box }, exits: {} },
  },
});

test('words are heard once they are published, and a change of them not before the next time', async () => {
  expect(menuPrompt).toMatchObject({ publishedWords: null, seconds: 0, version: 1 });
  const url = `/api/prompts/${menuPrompt.id}`;
  const live = (await post<PromptView>(`${url}/publish`, {}, 1)).body;
  expect(live).toMatchObject({ publishedWords: 'For bookings, press 1.', seconds: 2, version: 2 });
  const { id: _id, version: _version, ...draft } = live;
  const { name, kind, language } = draft;
  const changed = await put<PromptView>(
    url,
    { name, kind, language, personId: null, words: 'For bookings, press one.' },
    2,
  );
  expect(changed.body).toMatchObject({
    words: 'For bookings, press one.',
    publishedWords: 'For bookings, press 1.',
  });
  expect((await post(`${url}/publish`, {}, 2)).status).toBe(412);
  const silent = await post<PromptView>('/api/prompts', {
    name: 'Silent',
    kind: 'hold',
    language: 'en',
    personId: null,
    words: '',
  });
  const refused = await post<Refusal>(`/api/prompts/${silent.body.id}/publish`, {}, 1);
  expect(refused.body.errors).toEqual([
    { path: '/words', detail: 'There are no words to be heard yet. Write them first.' },
  ]);
});

test('a draft with faults is kept and not published; without them callers meet it, version by version', async () => {
  const halfDone: PlanDocument = {
    start: 's1',
    steps: { s1: { kind: 'say', config: { promptId: '', againKey: null }, exits: {} } },
  };
  const made = (
    await post<PlanView>('/api/plans', { name: 'Main line', document: halfDone } satisfies PlanDraft)
  ).body;
  expect(made).toMatchObject({ published: null, live: null, numbers: [], document: halfDone });
  const url = `/api/plans/${made.id}`;
  const refused = await post<Refusal>(`${url}/publish`, {}, 1);
  expect(refused).toMatchObject({
    status: 409,
    body: { detail: 'A fault in a step stops publishing. It stands at the step.' },
  });
  expect(refused.body.findings).toMatchObject([{ stepId: 's1', code: 'config' }]);
  expect((await put(url, { name: 'Main line', document: mainLine() }, 1)).status).toBe(200);
  const first = (await post<PlanView>(`${url}/publish`, {}, 2)).body;
  expect(first).toMatchObject({ published: { version: 1, by: 'Ada Admin' }, version: 3 });
  expect(first.live).toEqual(mainLine());
  const number = await post<{ id: string }>('/api/numbers', {
    ...{ e164: '+1 206 555 0140', label: 'Main line', destination: { kind: 'plan', id: made.id } },
  });
  expect(number.status).toBe(200);
  expect((await get<{ item: PlanView }>(url)).item.numbers).toMatchObject([{ e164: '+12065550140' }]);
  // A later draft is not what callers meet until it is published; yesterday's is still there to be brought back.
  const shorter = { start: 's3', steps: { s3: mainLine().steps.s3! } };
  await put(url, { name: 'Main line', document: shorter }, 3);
  expect((await get<{ item: PlanView }>(url)).item.live).toEqual(mainLine());
  expect((await post<PlanView>(`${url}/publish`, {}, 4)).body.published!.version).toBe(2);
  const versions = await get<{ version: number; document: PlanDocument }[]>(`${url}/versions`);
  expect(versions.map(({ version }) => version)).toEqual([2, 1]);
  expect(versions[1]!.document).toEqual(mainLine());
  await put(url, { name: 'Main line', document: versions[1]!.document }, 5);
  expect((await post<PlanView>(`${url}/publish`, {}, 6)).body).toMatchObject({ published: { version: 3 } });
});

test('a caller meets it: hours, the menu, a key, voicemail; the story tells every step', async () => {
  await until(
    () => [...night.live.exchange.view().plans.values()].some(({ version }) => version === 3),
    'the exchange knows the plan',
  );
  gateway.say({ kind: 'call', ref: 'menu', to: '+12065550140', from: '+13605550117' });
  const { callId } = await gateway.wait('callAccepted', ({ ref }) => ref === 'menu');
  const said = await gateway.wait('say', (message) => message.callId === callId);
  expect(said).toMatchObject({ promptId: menuPrompt.id, words: 'Please press a key.', keys: ['1'] });
  const calls = await get<{ calls: unknown[] }>('/api/floor');
  expect(JSON.stringify(calls)).toContain('inPlan');
  gateway.say({ kind: 'key', leg: `${callId}.1`, key: '1' });
  await gateway.wait('record', (message) => message.callId === callId);
  gateway.say({ kind: 'callerHungUp', callId });
  const { story } = await until(async () => {
    const { status, body } = await admin.send<{ story: { kind: string }[] }>('GET', `/api/calls/${callId}`);
    return status === 200 && body.story.some(({ kind }) => kind === 'ended') ? body : null;
  }, 'the call is over');
  expect(story.map(({ kind }) => kind)).toEqual(
    expect.arrayContaining(['hoursAsked', 'said', 'keyChosen', 'voicemail', 'ended']),
  );
});

test('a test call presses the keys it is given, and without them tells what follows', async () => {
  const trial = (keys?: string) =>
    post<{ story: { kind: string }[]; outcome: { kind: string } }>('/api/test-calls', {
      ...{ to: '+12065550140', from: '+13605550117' },
      ...(keys === undefined ? {} : { keys }),
    });
  const pressed = (await trial('1')).body;
  expect(pressed.outcome.kind).toBe('voicemail');
  expect(pressed.story.map(({ kind }) => kind)).toContain('keyChosen');
  const draft: PlanDocument = { start: 's3', steps: { s3: mainLine().steps.s3! } };
  const tried = await post<{ story: { kind: string; planVersion?: number }[] }>('/api/test-calls', {
    ...{ to: '+12065550140', from: '+13605550117', draft },
  });
  // The draft is met by this call only, and what callers meet stays as it was.
  expect(tried.body.story.map(({ kind }) => kind)).not.toContain('hoursAsked');
  const silent = (await trial()).body;
  expect(silent.story.filter(({ kind }) => kind === 'noKey')).toHaveLength(2);
});

test.each<[string, unknown, string]>([
  [
    'an unknown kind of step',
    { start: 's1', steps: { s1: { kind: 'dance', config: {}, exits: {} } } },
    '/document/steps/s1/kind',
  ],
  [
    'an exit to nowhere',
    {
      start: 's1',
      steps: { s1: { kind: 'say', config: { promptId: '', againKey: null }, exits: { next: 's9' } } },
    },
    '/document',
  ],
  ['a start that is not there', { start: 's7', steps: {} }, '/document'],
  [
    'a configuration of another kind',
    { start: 's1', steps: { s1: { kind: 'say', config: { roomId: 'x' }, exits: {} } } },
    '/document',
  ],
  [
    'ten thousand steps',
    {
      start: null,
      steps: Object.fromEntries(
        Array.from({ length: 10_000 }, (_, i) => [`s${i}`, { kind: 'end', config: {}, exits: {} }]),
      ),
    },
    '/document/steps',
  ],
  [
    'an item nobody knows',
    {
      start: 's1',
      steps: { s1: { kind: 'say', config: { promptId: 'no-such-prompt', againKey: null }, exits: {} } },
    },
    '/document',
  ],
])('%s is refused in a sentence, and nothing is kept', async (_what, document, path) => {
  const before = (await get<PlanView[]>('/api/plans')).length;
  const { status, body }: Answer<Refusal> = await post('/api/plans', { name: 'Spoilt', document });
  expect([status, body.errors[0]?.path]).toEqual([422, path]);
  expect(body.errors[0]!.detail.length).toBeGreaterThan(10);
  expect(await get<PlanView[]>('/api/plans')).toHaveLength(before);
});

test('what a plan names is not deactivated under it; two editors: the second is told, and nothing is lost', async () => {
  const [plan] = await get<PlanView[]>('/api/plans');
  const { version } = (await get<{ item: PromptView }>(`/api/prompts/${menuPrompt.id}`)).item;
  const refused = await post<Refusal>(`/api/prompts/${menuPrompt.id}/retire`, {}, version);
  expect(refused.body).toMatchObject({ code: 'inUse' });
  expect(refused.body.detail).toContain('Main line');
  const draft = { name: plan!.name, document: plan!.document };
  expect((await put(`/api/plans/${plan!.id}`, { ...draft, name: 'Front line' }, plan!.version)).status).toBe(
    200,
  );
  const late = await put<Refusal>(`/api/plans/${plan!.id}`, draft, plan!.version);
  expect(late).toMatchObject({ status: 412, body: { by: 'Ada Admin', current: { name: 'Front line' } } });
});

test('a plan is published at its time, and goes back at another; not when what it names is gone by then', async () => {
  const hour = 3_600_000;
  const name = 'Later';
  const step = (kind: string, config: object, exits: object = {}) => ({ kind, config, exits });
  const first = { start: 's1', steps: { s1: step('end', {}) } };
  const second = { start: 's1', steps: { s1: step('voicemail', { boxId: box }) } };
  const made = (await post<PlanView>('/api/plans', { name, document: first })).body;
  const url = `/api/plans/${made.id}`;
  const never = await admin.send<Refusal>('POST', `${url}/schedule`, {
    publishAt: Date.now() + hour,
    backAt: Date.now() + 2 * hour,
  });
  expect(never.body.errors[0]).toMatchObject({ path: '/backAt' });
  const live = (
    await admin.send<PlanView>('POST', `${url}/publish`, undefined, { 'if-match': `"${made.version}"` })
  ).body;
  const draft = (await put<PlanView>(url, { name, document: second }, live.version)).body;
  const past = await admin.send<Refusal>('POST', `${url}/schedule`, {
    publishAt: Date.now() - 1,
    backAt: null,
  });
  expect(past.body.errors[0]!.detail).toContain('over already');
  const set = (
    await admin.send<PlanView>('POST', `${url}/schedule`, {
      publishAt: Date.now() + hour,
      backAt: Date.now() + 2 * hour,
    })
  ).body;
  expect(set.scheduled).toMatchObject({ done: false, fault: null });
  // The draft goes on being changed; what was set is what is published.
  await put<PlanView>(url, { name, document: first }, draft.version);

  const due = (column: string) =>
    database('plan_schedule').update({ [column]: database.raw(`now() - interval '1 second'`) });
  const now = async () => (await get<{ item: PlanView }>(url)).item;
  await due('publish_at');
  await publishDue(database);
  expect(await now()).toMatchObject({
    ...{ published: { version: 2 }, live: second, document: first, scheduled: { done: true } },
  });
  await database('plan_schedule').update({ publish_at: database.raw(`now() - interval '1 hour'`) });
  await due('back_at');
  await publishDue(database);
  expect(await now()).toMatchObject({ published: { version: 3 }, live: first, scheduled: null });

  const gone = (await post<{ id: string }>('/api/queues', { name: 'Soon gone' })).body;
  await put<PlanView>(
    url,
    { name, document: { start: 's1', steps: { s1: step('queue', { queueId: gone.id, priority: null }) } } },
    (await now()).version,
  );
  await admin.send('POST', `${url}/schedule`, { publishAt: Date.now() + hour, backAt: null });
  await database('item').where({ id: gone.id }).update({ retired_at: database.fn.now() });
  await due('publish_at');
  await publishDue(database);
  expect(await now()).toMatchObject({
    published: { version: 3 },
    scheduled: { fault: 'Something its steps name is gone.' },
  });
  expect((await admin.send<PlanView>('POST', `${url}/unschedule`)).body.scheduled).toBeNull();
});

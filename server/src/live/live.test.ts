import { afterEach, beforeEach, expect, test } from 'vitest';
import type { StoryRecord } from '@night-bell/core/story/records';
import type { NightBell } from '../app.ts';
import type { NewPerson } from '../areas/people/create.ts';
import type { Database } from '../database/connection.ts';
import {
  Browser,
  firstAdministrator,
  freshDatabase,
  password,
  startServer,
  TestGateway,
  until,
} from '../server.testing.ts';
import { eventsAfter } from './log.queries.ts';
import { Replica } from './replica.ts';

const main = '+12065550140';
const caller = '+13605550117';

let database: Database;
let night: NightBell;
let address: string;
let admin: Browser;
let gateway: TestGateway;
let agents: NewPerson[];
let closing: (() => Promise<unknown> | void)[];

beforeEach(async () => {
  const fresh = await freshDatabase();
  database = fresh.database;
  night = await startServer(database);
  address = await night.app.listen({ port: 0, host: '127.0.0.1' });
  closing = [() => night.close(), () => fresh.drop()];
  admin = await firstAdministrator(night, database);
  agents = [];
  for (const name of ['Ann First', 'Ben Second'])
    agents.push((await admin.send<NewPerson>('POST', '/api/people', { name })).body);
  const queue = (
    await admin.send<{ id: string }>('POST', '/api/queues', {
      name: 'Bookings',
      wrapUpSeconds: 0,
      members: agents.map((agent) => agent.id),
    })
  ).body;
  await admin.send('POST', '/api/numbers', {
    e164: main,
    label: 'Main',
    destination: { kind: 'queue', id: queue.id },
  });
  await night.live.settled();
  gateway = new TestGateway();
  await gateway.connect(address);
});
afterEach(async () => {
  gateway.close();
  for (const each of closing) await each();
});

const register = (agent: NewPerson) =>
  gateway.register(agent.phone!.account, agent.phone!.registrationSecret);
const state = (id: string) => night.live.exchange.view().agents.get(id)!;
const placed = async () => {
  gateway.say({ kind: 'call', ref: 'r', to: main, from: caller });
  return (await gateway.wait('callAccepted')).callId;
};

test('a phone registers with digest, its agent is signed in, a wrong secret is refused and shown', async () => {
  expect(await register(agents[0]!)).toBe(200);
  await until(() => state(agents[0]!.id).presence === 'available', 'Ann is available');
  expect(await gateway.register(agents[1]!.phone!.account, 'guessed')).toBe(403);
  await until(() => state(agents[1]!.id).phone.state === 'refused', 'Ben’s phone is refused');
  const home = (await admin.send<{ findings: { code: string; itemName: string }[] }>('GET', '/api/home'))
    .body;
  expect(home.findings).toContainEqual(
    expect.objectContaining({ code: 'phoneRefused', itemName: 'Ben Second' }),
  );
  const stranger = new TestGateway();
  await expect(
    stranger.connect(address, 'wrong key').then(() => until(() => stranger.closed, 'it is closed')),
  ).resolves.toBe(true);
});

test('an enrolment code gives a phone its set-up once', async () => {
  const fetchSetUp = () =>
    new Browser(night).send<{ secret: string; account: string }>('POST', '/api/enrolments', {
      code: agents[0]!.phone!.enrolmentCode,
    });
  const first = await fetchSetUp();
  expect([first.status, first.body.secret]).toEqual([200, agents[0]!.phone!.registrationSecret]);
  expect((await fetchSetUp()).status).toBe(401);
  expect(await gateway.register(first.body.account, first.body.secret)).toBe(200);
});

test('one call from end to end, with who handled it and why', async () => {
  await register(agents[0]!);
  await register(agents[1]!);
  const test = (
    await admin.send<{ outcome: { name: string } }>('POST', '/api/test-calls', { to: main, from: caller })
  ).body;
  expect(test.outcome.name).toBe('Ann First');
  const callId = await placed();
  const ring = await gateway.wait('ring');
  expect(ring).toMatchObject({ device: agents[0]!.phone!.account, callId, from: caller });
  gateway.say({ kind: 'failed', leg: ring.leg, cause: 'declined' });
  const second = await gateway.wait('ring', (message) => message.device === agents[1]!.phone!.account);
  gateway.say({ kind: 'answered', leg: second.leg });
  await gateway.wait('connected', (message) => message.leg === `${callId}.1`);
  const during = (await admin.send<{ call: null; story: StoryRecord[] }>('GET', `/api/calls/${callId}`)).body;
  expect([during.call, during.story.at(-1)!.kind]).toEqual([null, 'answered']);
  gateway.say({ kind: 'callerHungUp', callId });
  const page = await until(async () => {
    const answer = await admin.send<{
      call: { personName: string; result: string } | null;
      story: StoryRecord[];
    }>('GET', `/api/calls/${callId}`);
    return answer.body.call === null ? null : answer.body;
  }, 'the call is on record');
  expect(page!.call).toMatchObject({ personName: 'Ben Second', result: 'answered' });
  const decisions = page!.story.filter((record) => record.kind === 'decision');
  expect(decisions.map((record) => record.kind === 'decision' && record.chosenName)).toEqual([
    'Ann First',
    'Ben Second',
  ]);
  expect(JSON.stringify(decisions[1])).toContain('backingOff');
  const list = (await admin.send<{ calls: { id: string }[] }>('GET', `/api/calls?personId=${agents[1]!.id}`))
    .body;
  expect(list.calls.map((call) => call.id)).toEqual([callId]);
  expect(
    (await admin.send<{ calls: unknown[] }>('GET', `/api/calls?personId=${agents[0]!.id}`)).body.calls,
  ).toEqual([]);
});

test('an agent opens their own calls only', async () => {
  await register(agents[0]!);
  const callId = await placed();
  gateway.say({ kind: 'answered', leg: (await gateway.wait('ring')).leg });
  await gateway.wait('connected');
  gateway.say({ kind: 'callerHungUp', callId });
  const signIn = async (agent: NewPerson) => {
    const browser = new Browser(night);
    await browser.signIn(agent.login, agent.signInCode);
    await browser.send('PUT', '/api/session/password', { password });
    await browser.readToken();
    return browser;
  };
  const [ann, ben] = [await signIn(agents[0]!), await signIn(agents[1]!)];
  await until(
    async () => (await ann.send<{ calls: unknown[] }>('GET', '/api/calls')).body.calls.length === 1,
    'Ann sees it',
  );
  expect((await ann.send('GET', `/api/calls/${callId}`)).status).toBe(200);
  expect((await ben.send('GET', `/api/calls/${callId}`)).status).toBe(403);
  expect((await ben.send<{ calls: unknown[] }>('GET', '/api/calls')).body.calls).toEqual([]);
});

test('a supervisor signs agents in, away and out; what does not fit is told', async () => {
  const move = (to: string) =>
    admin.send<{ detail: string }>('POST', `/api/people/${agents[0]!.id}/state`, {
      state: to,
      reason: 'lunch',
    });
  expect((await move('away')).body.detail).toMatch(/signed out. Sign them in first/);
  expect((await move('available')).status).toBe(204);
  expect((await move('away')).status).toBe(204);
  expect(state(agents[0]!.id)).toMatchObject({ presence: 'away', awayReason: 'lunch' });
  expect((await move('signedOut')).status).toBe(204);
});

test('a crash in the middle of a call: the state is rebuilt from the log, the call goes on and ends once', async () => {
  await register(agents[0]!);
  const callId = await placed();
  const ring = await gateway.wait('ring');
  gateway.say({ kind: 'answered', leg: ring.leg });
  await gateway.wait('connected');
  const before = JSON.stringify(night.live.exchange.snapshot());
  const rebuilt = await Replica.load(database);
  expect(JSON.stringify(rebuilt.exchange.snapshot())).toBe(before);

  // As by kill -9: the connections end, nothing more is written, no checkpoint is left.
  await database.raw(
    `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
  );
  await until(() => gateway.closed, 'the gateway is let go');
  const back = new TestGateway();
  await until(async () => {
    await back.connect(address, undefined, { legs: [ring.leg], calls: [callId] });
    await new Promise((resolve) => setTimeout(resolve, 50));
    return !back.closed && night.live.isHost;
  }, 'the exchange is hosted again');
  gateway = back;
  await register(agents[0]!);
  expect(night.live.exchange.view().calls.get(callId)?.activity.kind).toBe('bridged');
  gateway.say({ kind: 'callerHungUp', callId });
  await until(
    async () => (await database('call').where({ id: callId })).length === 1,
    'the call is on record',
  );
  expect(await database('call').where({ id: callId }).first()).toMatchObject({
    result: 'answered',
    person_id: agents[0]!.id,
  });
});

test('a second server follows the log, takes commands, and takes over when the host goes', async () => {
  const second = await startServer(database);
  closing.unshift(() => second.close());
  expect([night.live.isHost, second.live.isHost]).toEqual([true, false]);
  const there = new Browser(second);
  await there.signIn('ada', password);
  const moved = await there.send('POST', `/api/people/${agents[1]!.id}/state`, { state: 'available' });
  expect(moved.status).toBe(204);
  expect(state(agents[1]!.id).presence).toBe('available');
  await until(
    () => second.live.exchange.view().agents.get(agents[1]!.id)?.presence === 'available',
    'the follower knows it',
  );
  expect(JSON.stringify(second.live.exchange.snapshot())).toBe(
    JSON.stringify(night.live.exchange.snapshot()),
  );
  await night.live.close();
  await until(() => second.live.isHost, 'the second server hosts');
  // What ran out before it came rang nowhere.
  await until(
    async () =>
      (await eventsAfter(database, 0)).filter((event) => event.kind === 'clock' && event.unattended === true)
        .length === 2,
    'each said that it came',
  );
  const test = await there.send<{ outcome: object }>('POST', '/api/test-calls', { to: main, from: caller });
  expect(test.status).toBe(200);
});

test('a host whose place was taken cannot write: its numbers are gone', async () => {
  const [event] = (await eventsAfter(database, 0)).slice(-1);
  await database('exchange_event').insert({
    seq: event!.seq + 1,
    at: event!.at,
    body: JSON.stringify({ kind: 'clock' }),
  });
  gateway.say({ kind: 'call', ref: 'r', to: main, from: caller });
  // The commit fails, the state is dropped and rebuilt behind the other's event; the call was never promised an agent.
  await until(() => gateway.closed, 'the host steps down');
  await until(() => night.live.isHost && night.live.exchange.seq > event!.seq, 'it is rebuilt');
  expect(await database('call').select()).toEqual([]);
});

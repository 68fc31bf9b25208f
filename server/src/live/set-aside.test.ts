import { v7 as uuid } from 'uuid';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { brokenInvariants } from '@night-bell/core/exchange/snapshot';
import type { NightBell } from '../app.ts';
import type { NewPerson } from '../areas/people/create.ts';
import type { Database } from '../database/connection.ts';
import { type Browser, gatewayKey, openNight, startServer, TestGateway, until } from '../server.testing.ts';

const main = '+12065550140';
const caller = '+13605550117';

let night: NightBell;
let database: Database;
let admin: Browser;
let address: string;
let gateway: TestGateway;
let agent: NewPerson;
let drop: () => Promise<void>;

beforeEach(async () => {
  gateway = new TestGateway();
  ({ night, admin, address, database, drop } = await openNight(gateway));
  agent = (await admin.send<NewPerson>('POST', '/api/people', { name: 'Ann First' })).body;
  const queue = (
    await admin.send<{ id: string }>('POST', '/api/queues', { name: 'Bookings', members: [agent.id] })
  ).body;
  const destination = { kind: 'queue', id: queue.id };
  await admin.send('POST', '/api/numbers', { e164: main, label: 'Main', destination });
  await night.live.settled();
  await gateway.register(agent.phone!.account, agent.phone!.registrationSecret);
});
afterEach(() => drop());

const call = async (more: object = {}) => {
  const ref = uuid();
  gateway.say({ kind: 'call', ref, to: main, from: caller, ...more });
  const { callId } = await gateway.wait('callAccepted', (message) => message.ref === ref);
  await until(() => night.live.exchange.view().calls.has(callId), 'the exchange knows the call');
  return callId;
};
const endedAs = (callId: string) =>
  until(
    () => database('call').where({ id: callId }).first<{ result: string; caller_name: string | null }>(),
    'the call is on record',
  );
const hostsAgain = () => until(() => night.live.isHost && night.live.ready, 'the exchange is hosted');
const kept = () =>
  database('set_aside')
    .orderBy('id')
    .select<
      { what: string; kind: string; seq: number | null; call_ids: string[]; why: string; content: string }[]
    >('what', 'kind', 'seq', 'call_ids', 'why', 'content');

/** No number is missing in the log, and what it says gives the state there is. */
async function logIsSound(): Promise<void> {
  await night.live.committed();
  const seqs = await database('exchange_event').orderBy('seq').pluck<number[]>('seq');
  expect(seqs).toEqual(seqs.map((_, i) => seqs[0]! + i));
  expect(brokenInvariants(night.live.exchange.view())).toEqual([]);
}

/** Has the engine throw as soon as it asks what this call rests in. */
function poison(callId: string): void {
  Object.defineProperty(night.live.exchange.view().calls.get(callId)!, 'activity', {
    get: () => {
      throw new Error('on purpose');
    },
  });
}

/** After a rebuild gateways say hello again, with what is alive on their side. */
async function back(alive: string[]): Promise<void> {
  await until(() => gateway.closed, 'the gateway is let go');
  await hostsAgain();
  const again = new TestGateway();
  const legs = alive.map((callId) => `${callId}.1`);
  await until(async () => {
    await again.connect(address, gatewayKey, { legs, calls: alive });
    await new Promise((resolve) => setTimeout(resolve, 50));
    return !again.closed;
  }, 'the gateway is back');
  gateway = again;
  await gateway.register(agent.phone!.account, agent.phone!.registrationSecret);
}

test('a NUL in a caller’s name is cleaned at the door, said, and the call ends like any other', async () => {
  const callId = await call({ callerName: 'Eve\u0000Bad' });
  expect(await gateway.wait('remark', () => true)).toMatchObject({ of: 'call', taken: true });
  gateway.say({ kind: 'callerHungUp', callId });
  expect(await endedAs(callId)).toMatchObject({ result: 'abandoned', caller_name: 'Eve Bad' });
  expect(await kept()).toEqual([]);
});

test('what is not of the protocol is refused with a reason, and the gateway stays', async () => {
  gateway.say({ kind: 'call', ref: 'x', to: 7, from: caller } as never);
  expect(await gateway.wait('remark', () => true)).toEqual({
    ...{ kind: 'remark', of: 'call', taken: false, why: '"to" must be a string.' },
  });
  expect(await endedAfterHangUp()).toBe('abandoned');
});

async function endedAfterHangUp(): Promise<string> {
  const callId = await call();
  gateway.say({ kind: 'callerHungUp', callId });
  return (await endedAs(callId)).result;
}

describe('an event that breaks the engine', () => {
  test('is set aside: its call ends as lost, all others go on, also after a restart', async () => {
    const talking = await call();
    gateway.say({ kind: 'answered', leg: (await gateway.wait('ring')).leg });
    await gateway.wait('connected');
    const waiting = await call();
    poison(talking);
    gateway.say({ kind: 'callerHungUp', callId: talking });
    await back([waiting]);
    expect(await endedAs(talking)).toMatchObject({ result: 'lost' });
    expect(night.live.exchange.view().calls.has(waiting)).toBe(true);
    expect(await kept()).toMatchObject([
      { what: 'event', kind: 'callerHungUp', call_ids: [talking], why: 'on purpose' },
    ]);
    await logIsSound();
    const before = JSON.stringify(night.live.exchange.snapshot());
    const other = await startServer(database);
    expect(JSON.stringify(other.live.exchange.snapshot())).toBe(before);
    await other.close();
    // The agent who talked is free again and serves who waited.
    await gateway.wait('ring', (ring) => ring.callId === waiting);
  });

  test('by a timer is set aside with the call whose timer it was, and not the one at hand', async () => {
    const ringing = await call();
    const { leg } = await gateway.wait('ring');
    const waiting = await call();
    // It rings out: the timer is due now, and belongs to a call that breaks.
    const state = night.live.exchange.view();
    const timer = state.timers.values().find((each) => each.name === 'activity')!;
    state.timers.remove(timer);
    timer.at = state.now;
    state.timers.push(timer);
    poison(ringing);
    night.live.submit({ kind: 'legAnswered', leg });
    await back([waiting]);
    expect(await endedAs(ringing)).toMatchObject({ result: 'lost' });
    expect(night.live.exchange.view().calls.has(waiting)).toBe(true);
  });

  test('from the inbox is refused with a sentence', async () => {
    const callId = await call();
    await gateway.wait('ring');
    poison(callId);
    const answer = await admin.send<{ detail: string }>('POST', `/api/people/${agent.id}/state`, {
      state: 'signedOut',
    });
    expect([answer.status, answer.body.detail]).toEqual([409, expect.stringContaining('is set aside')]);
    await hostsAgain();
    expect(await endedAs(callId)).toMatchObject({ result: 'lost' });
    expect(await kept()).toMatchObject([{ what: 'event', kind: 'agentSignedOut' }]);
    await logIsSound();
  });

  test('and stands in the log already is taken out of the way at the next start', async () => {
    const callId = await call();
    await night.live.committed();
    const { seq, now } = night.live.exchange;
    await night.close();
    // Checkpoints are written at an orderly end: the event is behind the last.
    const nonsense = { kind: 'nonsense', callId };
    await database('exchange_event').insert([
      { seq: seq + 1, at: now, body: JSON.stringify(nonsense) },
      { seq: seq + 2, at: now, body: JSON.stringify({ kind: 'clock' }) },
    ]);
    night = await startServer(database);
    await hostsAgain();
    expect(await kept()).toMatchObject([
      { what: 'event', kind: 'nonsense', seq: seq + 1, content: expect.stringContaining('"nonsense"') },
    ]);
    expect(await endedAs(callId)).toMatchObject({ result: 'lost' });
    await logIsSound();
  });
});

describe('what cannot be written', () => {
  test('a fact: its call ends as lost with a plain line, what was to be written is kept whole', async () => {
    const good = await call();
    const bad = uuid();
    // Past the door, as a fault of ours would bring it.
    night.live.submit({ kind: 'callArrived', callId: bad, to: main, from: caller, callerName: 'a\u0000b' });
    await night.live.committed();
    night.live.submit({ kind: 'callerHungUp', callId: bad });
    // Handled in the same instant, behind the event that is set aside: it is not lost.
    night.live.submit({ kind: 'callerHungUp', callId: good });
    expect(await endedAs(bad)).toMatchObject({ result: 'lost', caller_name: null });
    expect(await endedAs(good)).toMatchObject({ result: 'abandoned' });
    await hostsAgain();
    const rows = await kept();
    expect(rows.map(({ what, kind }) => [what, kind])).toEqual([
      ['event', 'callerHungUp'],
      ['fact', 'callEnded'],
    ]);
    expect((JSON.parse(rows[1]!.content) as { facts: { callerName: string } }).facts.callerName).toBe(
      'a\u0000b',
    );
    await logIsSound();
  });

  test('an event whose number is no number of a call', async () => {
    night.live.submit({ kind: 'callArrived', callId: 'not-a-uuid', to: main, from: caller });
    await night.live.committed();
    night.live.submit({ kind: 'callerHungUp', callId: 'not-a-uuid' });
    await until(async () => (await kept()).length >= 3, 'it is set aside');
    await hostsAgain();
    expect(night.live.exchange.view().calls.size).toBe(0);
    expect((await kept()).map(({ kind }) => kind)).toEqual(['callerHungUp', 'callEnded', 'lostCall']);
    await logIsSound();
  });
});

test('an effect that cannot be carried out is kept, and its call ends as lost', async () => {
  const { devices } = night.live as unknown as {
    devices: { carryOut: (name: string, effect: object) => void };
  };
  const { carryOut } = devices;
  devices.carryOut = (name, effect) => {
    if ((effect as { kind: string }).kind === 'ring') throw new Error('no such device');
    carryOut(name, effect);
  };
  const ref = uuid();
  gateway.say({ kind: 'call', ref, to: main, from: caller });
  const { callId } = await gateway.wait('callAccepted', (message) => message.ref === ref);
  expect(await endedAs(callId)).toMatchObject({ result: 'lost' });
  await until(async () => (await kept()).length === 1, 'the effect is kept');
  expect(await kept()).toMatchObject([{ what: 'effect', kind: 'ring', call_ids: [callId] }]);
  devices.carryOut = carryOut;
  expect(night.live.isHost).toBe(true);
  await logIsSound();
});

test('a listener that breaks keeps nobody from going on', async () => {
  const stop = night.live.listen(
    () => {
      throw new Error('a page broke');
    },
    () => undefined,
  );
  expect(await endedAfterHangUp()).toBe('abandoned');
  stop();
});

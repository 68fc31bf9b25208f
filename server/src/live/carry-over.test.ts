import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { consultedIn, offerOf } from '@night-bell/core/exchange/calls/resting';
import { stageOf } from './call-stage.ts';
import { brokenInvariants } from '@night-bell/core/exchange/snapshot';
import type { NightBell } from '../app.ts';
import type { Database } from '../database/connection.ts';
import { Browser, gatewayKey, password, startServer, TestGateway, until } from '../server.testing.ts';
import { type Landed, landedInstallation } from './landed.testing.ts';

let database: Database;
let landed: Landed;
let night: NightBell;
let drop: () => Promise<void>;
const gateway = new TestGateway();

beforeEach(async () => {
  const installation = await landedInstallation();
  ({ database, landed } = installation);
  // A moment after it was killed; only the clock is set back, it goes on by itself.
  const ahead = Date.now() - (landed.at + 1_000);
  const realNow = Date.now.bind(Date);
  vi.spyOn(Date, 'now').mockImplementation(() => realNow() - ahead);
  night = await startServer(database);
  await until(() => night.live.isHost, 'the server hosts');
  drop = async () => {
    gateway.close();
    await night.close();
    await installation.drop();
  };
});
afterEach(async () => {
  await drop();
  vi.restoreAllMocks();
});

const nameOf = (agent: { person: { name: string } } | null) => agent?.person.name ?? null;

test('an installation of engine version 6 goes on with its calls and its people', async () => {
  const state = night.live.exchange.view();
  expect(brokenInvariants(state)).toEqual([]);
  expect(
    [...state.calls.values()].map((call) => ({
      id: call.id,
      stage: stageOf(call),
      talking: nameOf(call.talkingAgent),
      ringing: nameOf(offerOf(call)?.parts[0]?.agent ?? null),
      announcedTo: nameOf(consultedIn(call)),
      legs: call.legs.map((leg) => leg.id),
    })),
  ).toEqual(
    landed.calls.map(({ id, stage, talking, ringing, announcedTo, legs }) => ({
      id,
      stage,
      talking,
      ringing,
      announcedTo,
      legs,
    })),
  );
  for (const was of landed.agents) {
    const agent = [...state.agents.values()].find((each) => each.person.name === was.name)!;
    expect(agent, was.name).toMatchObject({ presence: was.presence, awayReason: was.awayReason });
    expect([agent.wrapUpUntil > 0, agent.calls.length], was.name).toEqual([was.wrapUp, was.calls]);
  }
  const seqs = await database('exchange_event').orderBy('seq').pluck<number[]>('seq');
  expect(seqs).toEqual(seqs.map((_, i) => seqs[0]! + i));
});

test('who talks ends the call, who waits is served next, and both are on record', async () => {
  const alive = landed.calls.map((call) => call.id);
  const legs = landed.calls.flatMap((call) => call.legs);
  const address = await night.app.listen({ port: 0, host: '127.0.0.1' });
  await gateway.connect(address, gatewayKey, { legs, calls: alive, trunkHosts: ['provider.example'] });
  for (const { account, secret } of Object.values(landed.by)) await gateway.register(account, secret);
  const talks = landed.calls.find((call) => call.talking === 'Dag Fourth')!;
  const next = landed.calls.find((call) => call.stage === 'waiting')!;
  gateway.say({ kind: 'callerHungUp', callId: talks.id });
  const facts = await until(
    () => database('call').where({ id: talks.id }).first<{ result: string }>(),
    'it is on record',
  );
  expect(facts).toMatchObject({ result: 'answered', person_id: landed.by['Dag Fourth']!.id });
  const dag = landed.by['Dag Fourth']!;
  const admin = new Browser(night);
  expect(await admin.signIn('ada', password)).toBe(204);
  await night.live.command({ kind: 'wrapUpEnded', personId: dag.id }, null);
  const ring = await gateway.wait('ring', (each) => each.callId === next.id);
  expect(ring.device).toBe(dag.account);
  gateway.say({ kind: 'answered', leg: ring.leg });
  await until(() => night.live.exchange.view().calls.get(next.id)?.activity.kind === 'bridged', 'they talk');
  gateway.say({ kind: 'callerHungUp', callId: next.id });
  await until(() => database('call').where({ id: next.id }).first(), 'it is on record');
  const { body } = await admin.send<{ story: { kind: string }[] }>('GET', `/api/calls/${next.id}`);
  // The story begins before the upgrade and ends after it.
  expect(body.story.map((record) => record.kind)).toEqual(
    expect.arrayContaining(['arrived', 'decision', 'answered', 'ended']),
  );
});

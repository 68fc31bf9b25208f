import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import type { CampaignView } from '@night-bell/core/contracts/campaigns';
import type { NewPerson } from '../areas/people/create.ts';
import type { QueueView } from '@night-bell/core/contracts/queues';
import type { TrunkView } from '@night-bell/core/contracts/trunks';
import type { Database } from '../database/connection.ts';
import {
  type Browser,
  firstAdministrator,
  freshDatabase,
  personSignedIn,
  startServer,
  TestGateway,
  until,
} from '../server.testing.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}

const host = 'provider.example';
const shown = '+12065550140';
/** The calls in these tests go to numbers whose clocks are within the hours at any moment: the hours are wide, and a test at night moves nothing. */
const list = [
  'name,phone,fare',
  'Ann Lee,+1 360 555 0111,12.50',
  'Bo Day,+1 360 555 0112,',
  'Cy Fox,+1 360 555 0113,7',
];

let database: Database;
let night: NightBell;
let address: string;
let admin: Browser;
let gateway: TestGateway;
let agent: NewPerson;
let trunk: TrunkView;
let campaign: CampaignView;
let closing: (() => Promise<unknown> | void)[];

const send = <T = Refusal>(method: 'GET' | 'POST' | 'PUT', url: string, body?: unknown, version?: number) =>
  admin.send<T>(method, url, body, version === undefined ? {} : { 'if-match': `"${version}"` });
const state = () => night.live.exchange.view();
const rows = () =>
  database('contact')
    .orderBy('position')
    .select<{ name: string; state: string; attempts: number }[]>('name', 'state', 'attempts');

beforeEach(async () => {
  const fresh = await freshDatabase();
  database = fresh.database;
  night = await startServer(database);
  address = await night.app.listen({ port: 0, host: '127.0.0.1' });
  closing = [() => night.close(), () => fresh.drop()];
  admin = await firstAdministrator(night, database);
  agent = (await send<NewPerson>('POST', '/api/people', { name: 'Ann First' })).body;
  const queue = (
    await send<QueueView>('POST', '/api/queues', { name: 'Calls', wrapUpSeconds: 0, members: [agent.id] })
  ).body;
  trunk = (
    await send<TrunkView>('POST', '/api/trunks', { name: 'Lines', host, account: 'ours', channels: 4 })
  ).body;
  const number = (await send<{ id: string }>('POST', '/api/numbers', { e164: shown, label: 'Main' })).body;
  campaign = (
    await send<CampaignView>('POST', '/api/campaigns', {
      name: 'Winter',
      queueId: queue.id,
      trunkId: trunk.id,
      numberId: number.id,
      ratio: 2,
    })
  ).body;
  gateway = new TestGateway();
  await gateway.connect(address, undefined, { legs: [], calls: [], trunkHosts: [host] });
});
afterEach(async () => {
  gateway.close();
  for (const each of closing) await each();
});

const bring = (lines = list) =>
  send<{ good: number; faulty: number; faults: { row: number; why: string }[] }>(
    'POST',
    `/api/campaigns/${campaign.id}/contacts`,
    { text: lines.join('\n') },
  );

/** Contacts may be called now, whatever hour it is where they live: what the hours do is tested in core. */
async function start(): Promise<void> {
  await bring();
  await database('contact').update({
    zones: database.raw(`array[?]`, [zoneAtNoon()]),
    due_at: database.fn.now(),
  });
  expect((await send('POST', `/api/campaigns/${campaign.id}/start`)).status).toBe(200);
  await gateway.register(agent.phone!.account, agent.phone!.registrationSecret);
}

/** A zone without daylight saving where it is about noon now. */
function zoneAtNoon(): string {
  const ahead = 12 - new Date().getUTCHours();
  return ahead === 0 ? 'Etc/GMT' : `Etc/GMT${ahead > 0 ? '-' : '+'}${Math.abs(ahead)}`;
}

const dials = () => gateway.heard.filter((message) => message.kind === 'dial');

describe('a contact list', () => {
  test('is checked row by row; good rows are kept, faulty ones named, numbers never twice', async () => {
    const first = await bring([...list, 'Di,360 555 01,', 'Ed,+1 360 555 0111,3']);
    expect(first.body).toMatchObject({ good: 3, faulty: 2 });
    expect(first.body.faults.map((fault) => [fault.row, fault.why])).toEqual([
      [4, 'notANumber'],
      [5, 'twice'],
    ]);
    const again = await bring();
    expect(again.status).toBe(422);
    const preview = await send<{
      separator: string;
      mapping: { phone: number };
      checked: { byReason: object };
    }>('POST', `/api/campaigns/${campaign.id}/contacts/preview`, {
      text: list.join('\n').replace(/,/g, ';'),
    });
    expect(preview.body).toMatchObject({
      separator: ';',
      mapping: { phone: 1 },
      checked: { good: 0, byReason: { alreadyListed: 3 } },
    });
    expect((await rows()).map((row) => row.name)).toEqual(['Ann Lee', 'Bo Day', 'Cy Fox']);
  });

  test('without a column of numbers, empty, or with an open quote, is refused with what to do', async () => {
    const refused = async (text: string) =>
      (await send('POST', `/api/campaigns/${campaign.id}/contacts`, { text })).body.errors[0];
    expect(await refused('who,what\na,b')).toMatchObject({
      path: '/mapping',
      detail: /which column/ as never,
    });
    expect(await refused('name,phone')).toMatchObject({ path: '/text' });
    expect((await refused('name,phone\n"Ann,+1 360 555 0111'))!.detail).toMatch(/quotation mark/);
    expect(await rows()).toEqual([]);
  });

  test('markup in a name stays text, a script may use own fields and no others', async () => {
    await bring(['name,phone,fare', '<b>Ann</b>,+1 360 555 0111,1']);
    expect((await rows())[0]!.name).toBe('<b>Ann</b>');
    const {
      id: _i,
      version,
      retired: _r,
      status: _s,
      since: _n,
      callerId: _c,
      fields,
      contacts: _k,
      ...draft
    } = (await send<{ item: CampaignView }>('GET', `/api/campaigns/${campaign.id}`)).body.item;
    expect(fields).toEqual(['fare']);
    const wrong = await send(
      'PUT',
      `/api/campaigns/${campaign.id}`,
      { ...draft, script: '{{ contact.far }}' },
      version,
    );
    expect(wrong.body.errors[0]).toMatchObject({ path: '/script' });
    expect(wrong.body.detail).toMatch(/Perhaps contact.fare\?/);
    const right = await send(
      'PUT',
      `/api/campaigns/${campaign.id}`,
      { ...draft, script: '{{ contact.fare }}' },
      version,
    );
    expect(right.status).toBe(200);
  });
});

describe('dialling', () => {
  test('a person who answers is put through to the agent, whose phone lifts by itself', async () => {
    await start();
    const dial = await gateway.wait('dial');
    expect(dial).toMatchObject({
      trunkHost: host,
      digits: '+13605550111',
      callerId: shown,
      party: 'contact',
    });
    expect(dials()).toHaveLength(2);
    gateway.say({ kind: 'answered', leg: dial.leg });
    gateway.say({ kind: 'greeted', leg: dial.leg, by: 'person' });
    const ring = await gateway.wait('ring');
    expect(ring.answerBySelf).toBe(true);
    gateway.say({ kind: 'answered', leg: ring.leg });
    await gateway.wait('connected', (message) => message.leg === dial.leg);
    gateway.say({ kind: 'hungUp', leg: dial.leg });
    const call = await until(
      () => database('call').where({ result: 'answered' }).first(),
      'the call is over',
    );
    expect(call).toMatchObject({
      direction: 'outbound',
      person_id: agent.id,
      dialled: '+13605550111',
      attempt: 1,
    });
    await until(async () => (await rows())[0]!.state === 'talked', 'the contact is done');
  });

  test('whoever presses the key is never called again, by any campaign', async () => {
    await start();
    const dial = await gateway.wait('dial');
    gateway.say({ kind: 'answered', leg: dial.leg });
    gateway.say({ kind: 'key', leg: dial.leg, key: '9' });
    await until(
      () => database('opt_out').where({ e164: dial.digits, how: 'key' }).first(),
      'the opt-out is written',
    );
    await until(async () => (await rows())[0]!.state === 'optedOut', 'the contact is opted out');
    const other = (await send<CampaignView>('POST', '/api/campaigns', { name: 'Spring' })).body;
    const preview = await send<{ good: number; faults: { why: string }[] }>(
      'POST',
      `/api/campaigns/${other.id}/contacts`,
      { text: list.join('\n') },
    );
    expect(preview.body.good).toBe(2);
    expect(preview.body.faults[0]!.why).toBe('optedOut');
  });

  test('opting out from the list while it rings stops the ringing', async () => {
    await start();
    const dial = await gateway.wait('dial');
    const { body } = await send<{ added: number }>('POST', '/api/opt-outs', {
      text: '+1 360 555 0111\nnobody',
    });
    expect(body.added).toBe(1);
    await gateway.wait('stopRinging', (message) => message.leg === dial.leg);
    await until(async () => (await rows())[0]!.state === 'optedOut', 'the contact is opted out');
    await until(() => dials().length === 3, 'the next contact is dialled');
  });

  test('a server that dies in between calls nobody twice for one attempt', async () => {
    await start();
    await until(() => dials().length === 2, 'two are dialled');
    const first = dials().map((dial) => dial.digits);
    const legs = dials().map((dial) => dial.leg);
    await night.live.committed();
    gateway.close();
    await night.close();
    night = await startServer(database);
    closing[0] = () => night.close();
    address = await night.app.listen({ port: 0, host: '127.0.0.1' });
    const back = new TestGateway();
    await back.connect(address, undefined, { legs, calls: [], trunkHosts: [host] });
    await until(() => state().calls.size === 2, 'the calls are known again');
    await back.register(agent.phone!.account, agent.phone!.registrationSecret);
    for (const leg of legs) back.say({ kind: 'failed', leg, cause: 'busy' });
    const next = await back.wait('dial');
    expect(first).not.toContain(next.digits);
    await until(
      async () => (await rows()).slice(0, 2).every((row) => row.attempts === 1 && row.state === 'due'),
      'both are due again',
    );
    back.close();
  });

  test('paused, nothing more is dialled; a full trunk is never overdrawn', async () => {
    await database('trunk').update({ channels: 1 });
    await send(
      'PUT',
      `/api/trunks/${trunk.id}`,
      { name: 'Lines', host, account: 'ours', channels: 1 },
      trunk.version,
    );
    await start();
    await gateway.wait('dial');
    await night.live.settled();
    expect(dials()).toHaveLength(1);
    expect((await send('POST', `/api/campaigns/${campaign.id}/pause`)).status).toBe(200);
    await night.live.settled();
    gateway.say({ kind: 'failed', leg: dials()[0]!.leg, cause: 'noRoute' });
    await until(async () => (await rows())[0]!.state === 'invalid', 'the number does not exist');
    await until(
      async () => (await rows()).slice(1).every((row) => row.state === 'due'),
      'the others came back',
    );
    expect(dials()).toHaveLength(1);
  });

  test('starting says what is missing, and a provider nobody reaches is a cause', async () => {
    const draft = (await send<CampaignView>('POST', '/api/campaigns', { name: 'Empty' })).body;
    expect((await send('POST', `/api/campaigns/${draft.id}/start`)).body.errors[0]).toMatchObject({
      path: '/queueId',
    });
    expect((await send('POST', `/api/campaigns/${campaign.id}/start`)).body.detail).toMatch(/nobody to call/);
    await send(
      'PUT',
      `/api/trunks/${trunk.id}`,
      { name: 'Lines', host: 'nowhere.example', account: 'ours', channels: 4 },
      trunk.version,
    );
    await start();
    const call = await until(
      () => database('call').where({ direction: 'outbound' }).first(),
      'a call failed',
    );
    expect(call.result).toBe('congestion');
    const home = await send<{ findings: { code: string }[] }>('GET', '/api/home');
    expect(home.body.findings.map((finding) => finding.code)).toContain('trunkUnreached');
  });
});

test('an agent on an outside number is dialled, and takes the call with the key', async () => {
  const remote = (
    await send<NewPerson>('POST', '/api/people', {
      name: 'Remo Far',
      outsideNumber: { e164: '+1 250 555 0181', trunkId: trunk.id },
    })
  ).body;
  await night.live.settled();
  expect((await send('POST', `/api/people/${remote.id}/state`, { state: 'available' })).status).toBe(204);
  gateway.say({ kind: 'call', ref: 'r', to: remote.extension, from: '+13605550117', trunkHost: host });
  const dial = await gateway.wait('dial');
  expect(dial).toMatchObject({ digits: '+12505550181', party: 'agent' });
  gateway.say({ kind: 'answered', leg: dial.leg });
  await gateway.wait('play', (message) => message.prompt === 'acceptCall');
  expect(gateway.heard.filter((message) => message.kind === 'connected')).toEqual([]);
  gateway.say({ kind: 'key', leg: dial.leg, key: '1' });
  await gateway.wait('connected');
  expect(state().trunks.get(trunk.id)!.inUse).toBe(2);
  const refused = await send('POST', `/api/trunks/${trunk.id}/retire`, {}, trunk.version);
  expect(refused.body).toMatchObject({ code: 'inUse' });
});

describe('the desk', () => {
  test('a page plays the phone: choose it, answer, say how it ended; others may not', async () => {
    const { browser, made } = await personSignedIn(night, admin, 'Dee Desk', 'agent');
    expect((await browser.send('POST', '/api/desk/phone', { phone: 'page' })).status).toBe(200);
    const phone = await database('phone').where({ person_id: made.id, kind: 'browser' }).first();
    await night.live.command({ kind: 'phoneRegistered', phoneId: phone!.id, address: 'own page' }, null);
    const { browser: other } = await personSignedIn(night, admin, 'Someone Else', 'agent');
    gateway.say({ kind: 'call', ref: 'r', to: made.extension, from: '+13605550117' });
    const { callId } = await gateway.wait('callAccepted');
    await until(() => state().calls.get(callId)?.activity.kind === 'offered', 'it rings');
    expect((await other.send('POST', `/api/desk/calls/${callId}/answer`)).status).toBe(409);
    expect((await other.send('GET', `/api/desk/calls/${callId}`)).status).toBe(403);
    expect((await browser.send('POST', `/api/desk/calls/${callId}/answer`)).status).toBe(204);
    await until(() => state().calls.get(callId)?.activity.kind === 'bridged', 'they talk');
    const wrong = await browser.send<Refusal>('PUT', `/api/desk/calls/${callId}/outcome`, {
      outcome: 'Sold a boat',
    });
    expect(wrong.body.errors[0]!.path).toBe('/outcome');
    expect(
      (await browser.send('PUT', `/api/desk/calls/${callId}/outcome`, { outcome: 'Dealt with', note: 'n' }))
        .status,
    ).toBe(204);
    expect((await browser.send('POST', `/api/desk/calls/${callId}/opt-out`)).status).toBe(204);
    expect((await browser.send('POST', `/api/desk/calls/${callId}/hang-up`)).status).toBe(204);
    await until(() => database('call').where({ id: callId, person_id: made.id }).first(), 'it is over');
    const desk = await browser.send<{ lastCalls: { outcome: string }[] }>('GET', '/api/desk');
    expect(desk.body.lastCalls[0]).toMatchObject({ outcome: 'Dealt with', note: 'n' });
    expect(await database('opt_out').pluck('e164')).toEqual(['+13605550117']);
    expect((await browser.send('GET', '/api/campaigns')).status).toBe(403);
    expect((await browser.send('POST', `/api/campaigns/${campaign.id}/start`)).status).toBe(403);
  });
});

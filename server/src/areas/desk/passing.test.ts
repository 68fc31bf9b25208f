import { afterAll, beforeAll, expect, test } from 'vitest';
import WebSocket from 'ws';
import type { NightBell } from '../../app.ts';
import type { PageMessage } from '../../live/pages.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';
import type { PersonView } from '../people/store.ts';

interface Agent {
  id: string;
  browser: Browser;
  account: string;
  extension: string;
}

let night: NightBell;
let address: string;
let drop: () => Promise<void>;
let admin: Browser;
let one: Agent;
let two: Agent;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, address, drop } = await openNight(gateway));
  one = await agentWithPhone('Talks First');
  two = await agentWithPhone('Hears Of It');
});
afterAll(() => drop());

async function agentWithPhone(name: string): Promise<Agent> {
  const { browser, made } = await personSignedIn(night, admin, name, 'agent');
  const { account, registrationSecret } = made.phone!;
  const { person } = (await admin.send<{ person: PersonView }>('GET', `/api/people/${made.id}`)).body;
  await night.live.settled();
  await gateway.register(account, registrationSecret);
  return { id: made.id, browser, account, extension: person.extension };
}

/** A caller who talks with the first agent. */
async function talking(): Promise<{ callId: string; leg: string }> {
  gateway.heard.length = 0;
  gateway.say({ kind: 'call', ref: 'r', to: one.extension, from: '+13605550117' });
  const { leg, callId } = await gateway.wait('ring', (ring) => ring.device === one.account);
  gateway.say({ kind: 'answered', leg });
  await until(() => night.live.exchange.view().calls.get(callId)?.activity.kind === 'bridged', 'they talk');
  return { callId, leg };
}
const over = async (callId: string) => {
  gateway.say({ kind: 'callerHungUp', callId });
  await until(() => !night.live.exchange.view().calls.has(callId), 'the call is over');
};
const press = (who: Agent, callId: string, what: string, body?: object) =>
  who.browser.send<{ detail: string }>('POST', `/api/desk/calls/${callId}/${what}`, body);

test('announced, taken back, announced again and put through: the story names both', async () => {
  const { callId, leg } = await talking();
  const announce = () => press(one, callId, 'announce', { personId: two.id });
  expect((await announce()).status).toBe(204);
  expect(await gateway.wait('hold', () => true)).toMatchObject({ leg: `${callId}.1` });
  await gateway.wait('ring', (ring) => ring.device === two.account);
  expect((await announce()).body.detail).toBe('That does nothing at this moment.');
  expect((await press(one, callId, 'take-back')).status).toBe(204);
  await gateway.wait('stopRinging', () => true);

  expect((await announce()).status).toBe(204);
  const again = await gateway.wait('ring', (ring) => ring.leg === `${callId}.4`);
  gateway.say({ kind: 'answered', leg: again.leg });
  await until(() => night.live.exchange.view().agents.get(two.id)!.calls.length === 1, 'the colleague hears');
  // Who is told may look at the call, and nobody else of the agents.
  expect((await two.browser.send('GET', `/api/desk/calls/${callId}`)).status).toBe(200);
  const to = { kind: 'person', id: two.id };
  expect((await press(one, callId, 'hand-over', { to })).status).toBe(204);
  await gateway.wait('released', (each) => each.leg === leg);
  const outcome = (who: Agent) =>
    who.browser.send<{ detail: string }>('PUT', `/api/desk/calls/${callId}/outcome`, { note: 'told all' });
  expect((await outcome(one)).status).toBe(204);
  await over(callId);
  expect((await outcome(one)).status).toBe(204);
  const third = await personSignedIn(night, admin, 'Was Not There', 'agent');
  expect((await third.browser.send('GET', `/api/desk/calls/${callId}`)).status).toBe(403);
  const { body } = await admin.send<{ story: { kind: string; name?: string }[]; personName: string }>(
    'GET',
    `/api/calls/${callId}`,
  );
  expect(body.story.map(({ kind }) => kind).filter((kind) => /consult|transfer/.test(kind))).toEqual([
    'consultationBegun',
    'transferCancelled',
    'consultationBegun',
    'consulted',
    'transferred',
  ]);
});

test('an agent’s page forgets a call that went on to somebody else, and who is told hears of it', async () => {
  const listen = (agent: Agent) => {
    const known = new Map<string, string | null>();
    const socket = new WebSocket(`${address.replace('http', 'ws')}/api/live`, {
      headers: { cookie: agent.browser.cookieHeader },
    });
    socket.on('message', (data: Buffer) => {
      const message = JSON.parse(data.toString()) as PageMessage;
      if (message.kind === 'pulse') return;
      if (message.kind === 'changes') for (const id of message.endedCalls) known.delete(id);
      for (const call of message.calls) known.set(call.callId, call.consulted?.name ?? null);
    });
    return { known, socket };
  };
  const pages = [listen(one), listen(two)] as const;
  const { callId } = await talking();
  await until(() => pages[0].known.has(callId), 'the page of who talks knows');
  expect(pages[1].known.has(callId)).toBe(false);
  await press(one, callId, 'announce', { personId: two.id });
  await until(() => pages.every(({ known }) => known.get(callId) === 'Hears Of It'), 'both pages know');
  // Hanging up while it rings lets it ring on, for the caller.
  await press(one, callId, 'hang-up');
  await until(
    () => !pages[0].known.has(callId) && pages[1].known.get(callId) === null,
    'only the other knows',
  );
  expect((await press(one, callId, 'take-back')).body.detail).toBe('That call has moved on meanwhile.');
  await over(callId);
  for (const { socket } of pages) socket.close();
});

test('whom a caller can go to is found by name and extension; those who can be rung come first', async () => {
  const ways = async (search: string) =>
    (
      await one.browser.send<{ kind: string; name: string; canRing: boolean }[]>(
        'GET',
        `/api/desk/ways?search=${encodeURIComponent(search)}`,
      )
    ).body;
  expect(await ways('hears')).toMatchObject([{ kind: 'person', name: 'Hears Of It', canRing: true }]);
  expect(await ways(two.extension)).toMatchObject([{ name: 'Hears Of It' }]);
  expect(await ways('talks first')).toEqual([]);
  await admin.send('POST', '/api/people', { name: 'Heard Without Phone', phoneModel: null, extension: '' });
  const { body: queue } = await admin.send<{ id: string }>('POST', '/api/queues', { name: 'Heard queue' });
  await until(() => night.live.exchange.view().queues.has(queue.id), 'the queue is known');
  expect(await ways('hear')).toMatchObject([
    { name: 'Heard queue', kind: 'queue' },
    { name: 'Hears Of It', kind: 'person' },
  ]);
  expect((await one.browser.send('GET', `/api/desk/ways?search=${'x'.repeat(81)}`)).status).toBe(422);

  const { callId } = await talking();
  gateway.say({ kind: 'call', ref: 's', to: two.extension, from: '+13605550118' });
  await gateway.wait('ring', (ring) => ring.device === two.account);
  expect(await ways('hears')).toMatchObject([{ canRing: false }]);
  const refused = await press(one, callId, 'announce', { personId: two.id });
  expect([refused.status, refused.body.detail]).toEqual([
    409,
    expect.stringContaining('The caller stays with you'),
  ]);
  expect((await press(two, callId, 'announce', { personId: one.id })).status).toBe(409);
  expect((await press(one, callId, 'hand-over', { to: { kind: 'queue', id: queue.id } })).status).toBe(204);
  await until(() => night.live.exchange.view().agents.get(one.id)!.calls.length === 0, 'the caller went on');
});

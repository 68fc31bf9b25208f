import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import WebSocket from 'ws';
import type { NightBell } from '../app.ts';
import type { PageMessage } from '../live/pages.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../server.testing.ts';

let night: NightBell;
let admin: Browser;
let address: string;
let drop: () => Promise<void>;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, address, drop } = await openNight(gateway));
});
afterAll(() => drop());

interface OpenPage {
  socket: WebSocket;
  heard: PageMessage[];
  /** Close code, once it is closed. */
  closed: { code: number; at: number } | null;
}

async function open(
  browser: Browser,
  path = '/api/live',
  headers: Record<string, string> = {},
): Promise<OpenPage> {
  const socket = new WebSocket(`${address.replace('http', 'ws')}${path}`, {
    headers: { cookie: browser.cookieHeader, ...headers },
  });
  const page: OpenPage = { socket, heard: [], closed: null };
  socket.on('message', (data: Buffer) => page.heard.push(JSON.parse(data.toString()) as PageMessage));
  socket.on('close', (code: number) => (page.closed = { code, at: Date.now() }));
  socket.on('error', () => undefined);
  await until(
    () => page.closed !== null || page.heard.length > 0 || path !== '/api/live',
    'the page is answered',
  );
  return page;
}
const closes = async (page: OpenPage) => {
  const began = Date.now();
  await until(() => page.closed, 'the socket is closed');
  return page.closed!.at - began;
};
let count = 0;
const somebody = (role: string) => personSignedIn(night, admin, `Somebody ${++count}`, role);
const version = async (id: string) =>
  (await admin.send<{ person: { version: number } }>('GET', `/api/people/${id}`)).body.person.version;

describe('an open page ends', () => {
  test('with its sign-in, at once', async () => {
    const { browser } = await somebody('supervisor');
    const page = await open(browser);
    expect((await browser.send('DELETE', '/api/session')).status).toBe(204);
    expect(await closes(page)).toBeLessThan(1_000);
  });

  test('when an administrator ends all sign-ins, and hears nothing after', async () => {
    const { browser, made } = await somebody('supervisor');
    const page = await open(browser);
    await admin.send('DELETE', `/api/people/${made.id}/sign-ins`);
    await closes(page);
    const heard = page.heard.length;
    await admin.send('POST', '/api/people', { name: 'Made After' });
    await night.live.settled();
    expect(page.heard.length).toBe(heard);
  });

  test('within a second of a deactivation, also when another server ended it', async () => {
    const { browser, made } = await somebody('auditor');
    const page = await open(browser);
    const retired = await admin.send(
      'POST',
      `/api/people/${made.id}/retire`,
      {},
      { 'if-match': `"${await version(made.id)}"` },
    );
    expect(retired.status).toBe(200);
    expect(await closes(page)).toBeLessThan(1_500);
    const other = await somebody('auditor');
    const there = await open(other.browser);
    // As another server does it: only the database knows.
    await night.live.committed();
    const { database } = night.live as unknown as {
      database: { raw: (sql: string, values: string[]) => Promise<unknown> };
    };
    await database.raw('delete from session where person_id = ?', [other.made.id]);
    expect(await closes(there)).toBeLessThan(1_500);
  });

  test('within a second of another role', async () => {
    const { browser, made } = await somebody('supervisor');
    const page = await open(browser);
    const person = (await admin.send<{ person: Record<string, unknown> }>('GET', `/api/people/${made.id}`))
      .body.person;
    const { database } = night.live as unknown as {
      database: { raw: (sql: string, values: string[]) => Promise<unknown> };
    };
    expect(person.role).toBe('supervisor');
    await database.raw(`update person set role = 'agent' where id = ?`, [made.id]);
    expect(await closes(page)).toBeLessThan(1_500);
    // It opens again with the new role, and hears what that role may.
    await until(
      async () =>
        (await browser.send<{ person: { role: string } }>('GET', '/api/session')).body.person.role ===
        'agent',
      'the role is known',
    );
    const again = await open(browser);
    const all = again.heard[0] as PageMessage & { kind: 'all' };
    expect([all.kind, all.queues, all.trunks, all.agents.map((each) => each.personId)]).toEqual([
      'all',
      [],
      [],
      [made.id],
    ]);
    again.socket.close();
  });
});

describe('a socket', () => {
  test('is opened for nobody who is not signed in, nor from another site', async () => {
    const stranger = new WebSocket(`${address.replace('http', 'ws')}/api/live`);
    const code = await new Promise((resolve) => stranger.on('close', resolve));
    expect(code).toBe(4401);
    for (const origin of ['null', 'http://elsewhere.example', 'garbage', 'http://'])
      expect((await openClosed(admin, { origin })).code).toBe(4401);
  });

  test('of a page ends when the page says something: none of ours does', async () => {
    const page = await open(admin);
    page.socket.send('{"kind":"hello"}');
    await closes(page);
    expect(page.closed!.code).toBe(1008);
  });

  test('is one of thirty for one sign-in at most', async () => {
    const { browser } = await somebody('auditor');
    const pages = [];
    for (let i = 0; i < 30; i++) pages.push(await open(browser));
    expect((await openClosed(browser, {})).code).toBe(1013);
    for (const page of pages) page.socket.close();
  });
});

async function openClosed(browser: Browser, headers: Record<string, string>): Promise<{ code: number }> {
  const page = await open(browser, '/api/live', headers);
  await closes(page);
  return page.closed!;
}

test('an agent hears of nobody else’s call, agent, queue or trunk', async () => {
  const one = await somebody('agent');
  const two = await somebody('agent');
  await night.live.settled();
  for (const each of [one, two])
    await gateway.register(each.made.phone!.account, each.made.phone!.registrationSecret);
  const page = await open(two.browser);
  const extension = (await admin.send<{ person: { extension: string } }>('GET', `/api/people/${one.made.id}`))
    .body.person.extension;
  gateway.say({ kind: 'call', ref: 'for one', to: extension, from: '+13605550117' });
  const { callId } = await gateway.wait('ring', (ring) => ring.device === one.made.phone!.account);
  gateway.say({ kind: 'callerHungUp', callId });
  await until(() => !night.live.exchange.view().calls.has(callId), 'it is over');
  // Something of their own comes behind it, so all before it was heard.
  await admin.send('POST', `/api/people/${two.made.id}/state`, { state: 'away', reason: 'lunch' });
  await until(
    () =>
      page.heard.some(
        (each) => each.kind === 'changes' && each.agents.some((agent) => agent.awayReason === 'lunch'),
      ),
    'they hear of themselves',
  );
  const text = JSON.stringify(page.heard);
  expect(text).not.toContain(callId);
  expect(text).not.toContain(one.made.id);
  page.socket.close();
});

import { afterAll, beforeAll, expect, test } from 'vitest';
import WebSocket from 'ws';
import type { NightBell } from '../app.ts';
import {
  type Browser,
  firstAdministrator,
  freshDatabase,
  personSignedIn,
  startServer,
  until,
} from '../server.testing.ts';
import type { PageMessage } from './pages.ts';

let night: NightBell;
let drop: () => Promise<void>;
let address: string;
let admin: Browser;

beforeAll(async () => {
  const fresh = await freshDatabase();
  night = await startServer(fresh.database);
  address = (await night.app.listen({ port: 0, host: '127.0.0.1' })).replace('http', 'ws');
  admin = await firstAdministrator(night, fresh.database);
  drop = async () => {
    await night.close();
    await fresh.drop();
  };
});
afterAll(() => drop());

function page(browser: Browser | null, headers: Record<string, string> = {}) {
  const heard: PageMessage[] = [];
  const socket = new WebSocket(`${address}/api/live`, {
    headers: { ...(browser === null ? {} : { cookie: browser.cookieHeader }), ...headers },
  });
  socket.on('message', (data: Buffer) => heard.push(JSON.parse(data.toString()) as PageMessage));
  const closed = new Promise<number>((resolve) => socket.on('close', (code) => resolve(code)));
  return { heard, socket, closed };
}

test('a page hears everything once, then what changes', async () => {
  const { browser, made } = await personSignedIn(night, admin, 'Ann Gent', 'agent');
  const reader = page(admin);
  const own = page(browser);
  await until(
    () => reader.heard[0]?.kind === 'all' && own.heard[0]?.kind === 'all',
    'both pages are greeted',
  );
  await admin.send('POST', `/api/people/${made.id}/state`, { state: 'available' });
  const changed = (heard: PageMessage[]) =>
    heard.some(
      (message) =>
        message.kind === 'changes' &&
        message.agents.some((agent) => agent.personId === made.id && agent.state === 'available'),
    );
  await until(() => changed(reader.heard) && changed(own.heard), 'both hear of the sign-in');
  const agentsOf = own.heard.flatMap((message) =>
    message.kind === 'pulse' ? [] : message.agents.map((agent) => agent.personId),
  );
  expect(new Set(agentsOf)).toEqual(new Set([made.id]));
  for (const each of [reader, own]) each.socket.close();
});

test('a page hears which item changed, and an agent’s page does not', async () => {
  const { browser } = await personSignedIn(night, admin, 'Abe Gent', 'agent');
  const reader = page(admin);
  const own = page(browser);
  await until(() => reader.heard.length > 0 && own.heard.length > 0, 'both pages are greeted');
  const prompt = { name: 'Welcome', kind: 'greeting', language: 'en', personId: null, words: 'Welcome.' };
  const { id } = (await admin.send<{ id: string }>('POST', '/api/prompts', prompt)).body;
  const named = (heard: PageMessage[]) =>
    heard
      .flatMap((message) => (message.kind === 'changes' ? message.items : []))
      // What was made before the pages were there may still be on its way.
      .filter((item) => item.kind === 'prompt');
  await until(() => named(reader.heard).length > 0, 'the page hears of the prompt');
  expect(named(reader.heard)).toEqual([{ kind: 'prompt', id }]);
  await until(
    () => own.heard.some((message) => message.kind === 'changes' && message.configuration),
    'the agent’s page hears that something changed',
  );
  expect(named(own.heard)).toEqual([]);
  for (const each of [reader, own]) each.socket.close();
});

test('who rings next in a queue is told as it changes, in the order in which they would', async () => {
  const made = await Promise.all(
    ['First Mate', 'Second Mate'].map(
      async (name) =>
        (await admin.send<{ id: string }>('POST', '/api/people', { name, role: 'agent' })).body.id,
    ),
  );
  const { id } = (
    await admin.send<{ id: string }>('POST', '/api/queues', { name: 'Bookings', members: made })
  ).body;
  const state = () => night.live.exchange.view();
  await until(() => state().queues.get(id)?.members.length === 2, 'the exchange knows the queue');
  const reader = page(admin);
  await until(() => reader.heard[0]?.kind === 'all', 'the page is greeted');
  const next = () =>
    reader.heard
      .flatMap((message) => (message.kind === 'pulse' ? [] : message.queues))
      .findLast(({ queueId }) => queueId === id)
      ?.next.join();
  const phoneOf = (personId: string) => state().agents.get(personId)!.phones[0]!.item.id;
  for (const personId of made)
    night.live.submit({ kind: 'phoneRegistered', phoneId: phoneOf(personId), address: '192.0.2.9' });
  await until(() => next() === made.join(), 'both are told, the longest idle first');
  night.live.submit({ kind: 'agentAway', personId: made[0]!, reason: 'break' });
  await until(() => next() === made[1], 'who went away is not next any more');
  night.live.submit({ kind: 'agentSignedIn', personId: made[0]! });
  await until(() => next() === `${made[1]},${made[0]}`, 'and comes behind the other');
  reader.socket.close();
});

test('nobody listens without a sign-in, or from another site', async () => {
  expect(await page(null).closed).toBe(4401);
  expect(await page(admin, { origin: 'http://elsewhere.example' }).closed).toBe(4401);
});

import { readFileSync } from 'node:fs';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import WebSocket from 'ws';
import { startChromium } from '../browser.testing.ts';
import { type Acknowledged, checkEverything } from './checks.testing.ts';
import { Figures, seeded } from './figures.testing.ts';
import { Installation, type Part, until } from './installation.testing.ts';

/**
 * An installation in live use on its worst day: its processes are killed and stopped, what it is given is poison, its
 * customer system misbehaves. Short in npm test; npm run abuse has the long form. All of it on loopback, bounded in
 * count and time, on a port and data of its own.
 */
const long = process.env.NIGHT_BELL_ABUSE === 'long';
const kills: Record<'server' | 'postgres' | 'others', number> = long
  ? { server: 50, postgres: 20, others: 10 }
  : { server: 5, postgres: 3, others: 1 };
const port = 4_500 + (process.pid % 400);

const figures = new Figures();
const random = seeded(20_261_127);
const acknowledged: Acknowledged = { people: [], optOuts: [], calls: [] };
let night: Installation;
let mainNumber: string;
let chromium: Browser;
let page: Page;
let working = true;
let load: Promise<void>;

beforeAll(async () => {
  night = await Installation.start(port);
  const numbers = await night.send<{ e164: string; destination: object | null }[]>('GET', '/api/numbers');
  mainNumber = numbers.body.find((each) => each.destination !== null)!.e164;
  chromium = await startChromium();
  page = await chromium.newPage();
  for (const pair of (await night.signIn()).cookie.split('; ')) {
    const [name = '', value = ''] = pair.split('=');
    await page.setCookie({ name, value, url: night.address });
  }
  await page.goto(`${night.address}/floor`);
  await page.waitForSelector('main h1');
  await page.evaluate(() => ((window as never as { mark: string }).mark = 'the same page'));
  await night.send('PUT', '/api/stand-ins/traffic', { on: true, speed: long ? 40 : 20 });
  // Whatever hour it is, contacts may be called: what the hours do is tested in core.
  const ahead = 12 - new Date().getUTCHours();
  const zone = ahead === 0 ? 'Etc/GMT' : `Etc/GMT${ahead > 0 ? '-' : '+'}${Math.abs(ahead)}`;
  await night
    .database('contact')
    .where({ state: 'due' })
    .update({
      zones: night.database.raw('array[?]', [zone]),
      due_at: night.database.fn.now(),
    });
  load = useIt();
}, 180_000);
afterAll(async () => {
  working = false;
  await load;
  process.stdout.write('\nThe worst day, in figures\n');
  figures.print();
  const statuses = [...night.seen]
    .sort(([one], [other]) => one - other)
    .map(([status, n]) => `${n} x ${status}`);
  process.stdout.write(`  answers: ${statuses.join(', ')}\n`);
  await chromium.close();
  await night.stop();
}, 60_000);

/** People at work meanwhile: making, opting out, reading. What they are told is done must be there in the end. */
async function useIt(): Promise<void> {
  for (let i = 0; working; i++) {
    const made = await night.send<{ id: string }>('POST', '/api/people', {
      name: `Meanwhile ${i}`,
      role: 'auditor',
    });
    if (made.status === 200) acknowledged.people.push(made.body.id);
    const e164 = `+1360555${String(2_000 + i).padStart(4, '0')}`;
    if ((await night.send('POST', '/api/opt-outs', { text: e164 })).status === 200)
      acknowledged.optOuts.push(e164);
    await night.send('GET', '/api/queues');
    await new Promise((resolve) => setTimeout(resolve, 400));
  }
}

/** A call comes in and is accepted. */
async function callAccepted(address = night.address): Promise<boolean> {
  const body = { to: mainNumber, from: '+13605550117' };
  const placed = await night.send<{ callId: string }>('POST', '/api/stand-ins/calls', body, address);
  if (placed.status === 200) acknowledged.calls.push(placed.body.callId);
  return placed.status === 200;
}

/** The short form prints its times and judges none: a machine may be busy. */
function withinLong(name: string, ms: number): void {
  if (long) expect(figures.median(name), name).toBeLessThan(ms);
}

async function kill(part: Part, signal: NodeJS.Signals = 'SIGKILL'): Promise<number> {
  await new Promise((resolve) => setTimeout(resolve, 100 + random() * (long ? 3_000 : 300)));
  const pid = night.pid(part);
  process.kill(pid, signal);
  return pid;
}

/** Everything answers, the exchange is hosted, and calls come in again. */
async function isWell(what: string, hosts = night.address): Promise<void> {
  const began = Date.now();
  await until(async () => (await night.send('GET', '/api/health')).status === 200, 'it answers');
  figures.add(`${what}: answering`, Date.now() - began);
  await until(async () => (await night.send('GET', '/api/ready')).status === 200, 'it is live');
  await until(() => callAccepted(hosts), 'a call is accepted');
  figures.add(`${what}: first call accepted`, Date.now() - began);
  // Live again: nothing is refused for want of anything.
  expect((await night.send('GET', '/api/floor')).status).toBe(200);
  expect(night.isUp, night.said).toBe(true);
}

describe('killed', () => {
  test('at a random moment, the server is back by itself', async () => {
    for (let i = 0; i < kills.server; i++) {
      await kill('server');
      await isWell('server killed');
    }
    withinLong('server killed: first call accepted', 3_000);
  }, 900_000);

  test('PostgreSQL is, and so is what stands on it', async () => {
    for (let i = 0; i < kills.postgres; i++) {
      const pid = await kill('postgres');
      await until(() => night.pid('postgres') !== pid || !alive(pid), 'it is gone');
      await isWell('PostgreSQL killed');
    }
    withinLong('PostgreSQL killed: first call accepted', 6_000);
  }, 900_000);

  test('each of the stand-ins is, and the others stay', async () => {
    for (let i = 0; i < kills.others; i++) {
      for (const part of ['standIns', 'harbourBook', 'numberShop'] as const) {
        const server = night.pid('server');
        const pid = await kill(part);
        await until(() => night.pid(part) !== pid, `${part} is started again`);
        await isWell('a stand-in killed');
        expect(night.pid('server')).toBe(server);
      }
    }
    withinLong('a stand-in killed: first call accepted', 2_000);
  }, 900_000);
});

describe('given poison', () => {
  const unseen = async () => Number((await night.database('set_aside').count({ n: '*' }))[0]!.n);

  test('by a gateway, it cleans or refuses it and goes on', async () => {
    const { NIGHT_BELL_GATEWAY_KEY } = night.running.serverEnvironment;
    const socket = new WebSocket(`${night.address.replace('http', 'ws')}/devices`, {
      headers: { authorization: `Bearer ${NIGHT_BELL_GATEWAY_KEY}` },
    });
    const heard: { kind: string; callId?: string }[] = [];
    socket.on('message', (data: Buffer) => heard.push(JSON.parse(data.toString()) as { kind: string }));
    await new Promise((resolve) => socket.once('open', resolve));
    const say = (message: unknown) =>
      socket.send(typeof message === 'string' ? message : JSON.stringify(message));
    say({ kind: 'hello', gateway: 'poison', legs: [], calls: [] });
    say({ kind: 'call', ref: 'nul', to: mainNumber, from: '+13605550117', callerName: 'a\u0000b' });
    await until(() => heard.some((each) => each.kind === 'callAccepted'), 'the call is taken');
    const { callId } = heard.find((each) => each.kind === 'callAccepted')!;
    acknowledged.calls.push(callId!);
    for (const message of [
      '',
      '{',
      'null',
      '[]',
      '{"kind":7}',
      { kind: 'call', ref: {}, to: 1 },
      { kind: 'legEnded' },
    ])
      say(message);
    for (let i = 0; i < 200; i++) say({ kind: 'answered', leg: `nobody.${i}` });
    say({ kind: 'callerHungUp', callId });
    await until(async () => (await night.database('call').where({ id: callId! })).length === 1, 'it ended');
    expect(heard.filter((each) => each.kind === 'remark').length).toBeGreaterThanOrEqual(7);
    expect(socket.readyState).toBe(WebSocket.OPEN);
    socket.close();
    await isWell('poison of a gateway');
  }, 60_000);

  test('in its inbox and its log, it sets it aside and goes on', async () => {
    const inbox = (body: object) => night.database('exchange_inbox').insert({ body: JSON.stringify(body) });
    const before = await unseen();
    await inbox({ kind: 'nonsense' });
    await until(async () => (await unseen()) > before, 'what breaks the engine is set aside');
    await isWell('poison in the inbox');
    await inbox({ kind: 'callArrived', callId: 'no-number', to: mainNumber, from: '+13605550117' });
    await inbox({ kind: 'callerHungUp', callId: 'no-number' });
    await until(async () => (await unseen()) > before + 2, 'what cannot be written is set aside');
    await isWell('poison that cannot be written');
    const now = await unseen();
    for (let taken = false; !taken;) {
      const { seq, at } = await night
        .database('exchange_event')
        .orderBy('seq', 'desc')
        .first<{ seq: string; at: string }>();
      taken = await night
        .database('exchange_event')
        .insert({ seq: Number(seq) + 1, at: Number(at), body: JSON.stringify({ kind: 'nonsense' }) })
        .then(
          () => true,
          () => false,
        );
    }
    await until(async () => (await unseen()) > now, 'what breaks the replay is set aside');
    await isWell('poison in the log');
  }, 120_000);
});

test('its customer system slow, hung, answering without end or with faults: the server neither ends nor swells', async () => {
  const server = night.pid('server');
  const book = night.pid('harbourBook');
  const moods = long ? ['slow', 'hung', 'huge', 'broken', 'well'] : ['slow', 'huge', 'well'];
  for (const mood of moods) {
    await until(
      async () => (await night.send('PUT', '/api/stand-ins/harbour-book', { mood })).status === 204,
      'it is told',
    );
    const read = async () => {
      const { status, body } = await night.send<{ ok: boolean }>('POST', '/api/connections/read');
      expect([mood, status]).toEqual([mood, 200]);
      return body.ok;
    };
    // Whatever it was before, it is read again once it is well; how soon is the machine's to say.
    if (mood === 'well') await until(read, 'it is read again');
    else expect([mood, await read()]).toEqual([mood, false]);
    expect(await callAccepted()).toBe(true);
  }
  expect([night.pid('server'), night.pid('harbourBook')]).toEqual([server, book]);
  const peak = Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server}/status`, 'utf8'))![1]);
  process.stdout.write(`  peak memory of the server: ${Math.round(peak / 1_024)} MB\n`);
  expect(peak).toBeLessThan(700 * 1_024);
}, 120_000);

describe('hanging', () => {
  test.runIf(long)(
    'alone, a server that is stopped is ended and started again',
    async () => {
      const pid = await kill('server', 'SIGSTOP');
      const began = Date.now();
      await until(() => night.pid('server') !== pid, 'another is started');
      figures.add('server hangs alone: ended', Date.now() - began);
      await isWell('server hung');
    },
    60_000,
  );

  test('with a second server, that one hosts within five seconds, and what the first still wanted to write is refused', async () => {
    const second = await night.startSecond();
    const hosts = async () =>
      (await night.send<{ hosting: boolean }>('GET', '/api/ready', undefined, second)).body.hosting === true;
    expect(await hosts()).toBe(false);
    const pid = await kill('server', 'SIGSTOP');
    const ms = await until(hosts, 'the second hosts');
    figures.add('host hangs: another hosts', ms);
    withinLong('host hangs: another hosts', 5_000);
    // It wakes up before the starter ends it, and finds its place taken; or it is ended.
    if (alive(pid)) process.kill(pid, 'SIGCONT');
    await until(async () => (await night.send('GET', '/api/ready')).status === 200, 'the first follows');
    await isWell('host hung, with a second', second);
    await night.stopSecond();
    await isWell('the second stopped');
  }, 120_000);
});

test('after all of it nothing is lost, nothing is twice, and no answer was a 500', async () => {
  working = false;
  await load;
  await until(async () => (await night.send('GET', '/api/ready')).status === 200, 'it is live');
  await checkEverything(night, acknowledged);
  expect(night.faults).toEqual([]);
  expect(acknowledged.people.length).toBeGreaterThan(5);
}, 60_000);

test('a page open through all of it says what happened, and is right again by itself', async () => {
  expect(await page.evaluate(() => (window as never as { mark?: string }).mark)).toBe('the same page');
  await night.send('PUT', '/api/stand-ins/traffic', { on: false, speed: 1 });
  const pid = await kill('server');
  await page.waitForFunction(() =>
    /Night Bell is not answering|catching up/.test(document.querySelector('[role=alert]')?.textContent ?? ''),
  );
  await until(() => night.pid('server') !== pid, 'it is started again');
  await page.waitForFunction(() => document.querySelector('[role=alert]') === null);
  await page.waitForFunction(() => /was away for \d+ s/.test(document.body.textContent ?? ''));
  // What it shows is what is.
  await until(async () => {
    const { body } = await night.send<{ calls: unknown[]; queues: { waiting: number }[] }>(
      'GET',
      '/api/floor',
    );
    const waiting = body.queues.reduce((sum, queue) => sum + queue.waiting, 0);
    const shown = await page.evaluate(() => document.querySelector('main')!.textContent ?? '');
    return shown.length > 100 && waiting >= 0;
  }, 'the floor shows what is');
}, 60_000);

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

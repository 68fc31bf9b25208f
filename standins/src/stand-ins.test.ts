import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { type WebSocket, WebSocketServer } from 'ws';
import type { FromGateway, HarbourMood, ToGateway } from '@night-bell/core/devices/protocol';
import { type Profile, usualProfile } from '@night-bell/core/rehearse/behaviour';
import { StandIns } from './stand-ins.ts';
import { Store, type StoredPhone } from './store.ts';

/** Sure of themselves: whoever is rung lifts, and hangs up first. */
const sure: Profile = { ...usualProfile, ...{ letsItRing: 0, declines: 0, agentEnds: 1 } };
const phone = (account: string): StoredPhone => ({ account, domain: 'd', secret: 's', name: account });

/** Taken before time is played. */
const realTimeout = setTimeout;

let folder: string;
let http: Server;
let socket: WebSocket;
let heard: FromGateway[] = [];
let standIns: StandIns;
const moods: HarbourMood[] = [];
const codes = new Map<string, StoredPhone>();

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  folder = mkdtempSync(join(tmpdir(), 'night-bell-'));
  heard = [];
  http = createServer((request, response) => {
    request.on('data', (data: Buffer) => {
      const { code } = JSON.parse(data.toString()) as { code: string };
      const setUp = codes.get(code);
      response.writeHead(setUp === undefined ? 401 : 200).end(JSON.stringify(setUp ?? {}));
    });
  });
  http.listen(0, '127.0.0.1');
  await once(http, 'listening');
});
afterEach(async () => {
  standIns.stop();
  vi.useRealTimers();
  socket.terminate();
  http.close();
  await once(http, 'close');
  rmSync(folder, { recursive: true });
});

/** A server that hears what the stand-ins say, and they with these phones. */
async function begin(profile: Profile, ...phones: StoredPhone[]): Promise<void> {
  const sockets = new WebSocketServer({ server: http, path: '/devices' });
  const { port } = http.address() as { port: number };
  const storeFile = join(folder, 'store.json');
  const store = new Store(storeFile);
  store.value.phones.push(...phones);
  store.save();
  const addresses = [`http://127.0.0.1:${port}`];
  standIns = new StandIns({
    ...{ addresses, key: 'k', storeFile, seed: 7, profile },
    setMood: (mood) => moods.push(mood),
  });
  standIns.start();
  [socket] = (await once(sockets, 'connection')) as [WebSocket];
  socket.on('message', (data: Buffer) => heard.push(JSON.parse(data.toString()) as FromGateway));
  await says('trafficState');
}
const tell = (message: ToGateway) => socket.send(JSON.stringify(message));
/** What was said of this kind, and fits, before or while time passes. */
async function says<K extends FromGateway['kind']>(
  kind: K,
  fits: (message: FromGateway & { kind: K }) => boolean = () => true,
): Promise<FromGateway & { kind: K }> {
  for (const until = Date.now() + 10_000; Date.now() < until;) {
    const message = heard.find((each) => each.kind === kind && fits(each as never));
    if (message !== undefined) return message as FromGateway & { kind: K };
    await vi.advanceTimersByTimeAsync(250);
    // What is sent goes over a real socket, in real time.
    await new Promise((next) => realTimeout(next, 1));
  }
  throw new Error(`nothing of kind ${kind} came that fits`);
}
const ring = (more: Partial<ToGateway & { kind: 'ring' }> = {}): ToGateway => ({
  ...{ kind: 'ring', effect: 'e1', device: 's2001', leg: 'c1.2', callId: 'c1', from: '+13605550117' },
  ...{ ringSeconds: 20, answerBySelf: false },
  ...more,
});

describe('a phone that is played', () => {
  test('registers as soon as there is a server, and says what is alive', async () => {
    await begin(sure, phone('s2001'), phone('s2002'));
    expect(await says('hello')).toMatchObject({ gateway: 'stand-ins', legs: [], calls: [] });
    for (const device of ['s2001', 's2002'])
      expect((await says('sip', (each) => each.device === device)).message).toMatch(/^REGISTER /);
  });

  test('lifts when it rings, once for each effect, and shows what it was told to', async () => {
    await begin(sure, phone('s2001'));
    tell(ring({ shows: ['Bookings', 'Gideon Bjornstad'] }));
    tell(ring());
    expect(await says('answered')).toEqual({ kind: 'answered', leg: 'c1.2' });
    const shown = await says('trafficState', ({ devices }) => (devices[0]?.display?.length ?? 0) > 0);
    expect(shown.devices).toMatchObject([{ account: 's2001', display: ['Bookings', 'Gideon Bjornstad'] }]);
    expect(heard.filter(({ kind }) => kind === 'answered')).toHaveLength(1);
  });

  test('without anything to show it shows who calls; one that answers by itself lifts at once', async () => {
    await begin({ ...sure, letsItRing: 1 }, phone('s2001'));
    tell(ring());
    tell(ring({ effect: 'e2', leg: 'c2.2', callId: 'c2', answerBySelf: true }));
    expect(await says('answered')).toMatchObject({ leg: 'c2.2' });
    const shown = await says('trafficState', ({ devices }) => (devices[0]?.display?.length ?? 0) > 0);
    expect(shown.devices[0]!.display).toEqual(['+13605550117']);
    expect(heard.filter(({ kind }) => kind === 'answered')).toHaveLength(1);
  });

  test('says no as often as its profile does; who talked hangs up by itself', async () => {
    await begin({ ...sure, declines: 1 }, phone('s2001'));
    tell(ring());
    expect(await says('failed')).toEqual({ kind: 'failed', leg: 'c1.2', cause: 'declined' });
    tell(ring({ effect: 'e3', leg: 'c3.2', callId: 'c3', answerBySelf: true }));
    await says('answered');
    tell({ kind: 'connected', effect: 'e4', callId: 'c3', leg: 'c3.2', with: 'c3.1' } as ToGateway);
    tell({ kind: 'connected', effect: 'e5', callId: 'c3', leg: 'c3.1', with: 'c3.2' } as ToGateway);
    expect(await says('hungUp')).toEqual({ kind: 'hungUp', leg: 'c3.2' });
  });

  test('goes wrong in the way it is asked to, and that is told', async () => {
    await begin(sure, phone('s2001'));
    tell({ kind: 'misbehave', device: 's2001', how: 'silent' } as ToGateway);
    const silent = await says('trafficState', ({ devices }) => devices[0]?.misbehaves === 'silent');
    expect(silent.devices).toHaveLength(1);
  });
});

test('codes are handed to phones one after the other; one that is refused is said, and the next goes on', async () => {
  await begin(sure);
  codes.set('first', phone('s3001')).set('third', phone('s3003'));
  await standIns.enrolAll(['first', 'second', 'third']);
  await says('enrolled', ({ code }) => code === 'third');
  const enrolled = heard.flatMap((each) => (each.kind === 'enrolled' ? [[each.code, each.account]] : []));
  expect(enrolled).toEqual([
    ['first', 's3001'],
    ['second', null],
    ['third', 's3003'],
  ]);
  expect(new Store(join(folder, 'store.json')).value.phones.map(({ account }) => account)).toEqual([
    's3001',
    's3003',
  ]);
});

describe('callers who are played', () => {
  test('call when they are asked to, press the first key they may, and give up when their patience ends', async () => {
    await begin(sure);
    tell({ kind: 'placeCall', ref: 'r1', to: '+12065550140', from: '+13605550117' } as ToGateway);
    expect(await says('call')).toMatchObject({ ref: 'r1', to: '+12065550140' });
    tell({ kind: 'callAccepted', effect: 'a1', ref: 'r1', callId: 'c9' } as ToGateway);
    tell({
      ...{ kind: 'say', effect: 'a2', callId: 'c9', leg: 'c9.1', promptId: 'p', words: 'Press.' },
      ...{ seconds: 0, keys: ['4', '2'] },
    } as ToGateway);
    expect(await says('key')).toMatchObject({ leg: 'c9.1', key: '4' });
    expect(await says('callerHungUp')).toEqual({ kind: 'callerHungUp', callId: 'c9' });
  });

  test('whom nobody knows is called by nobody; the mood of the customer system is passed on', async () => {
    await begin(sure);
    tell({ kind: 'mood', mood: 'slow' } as ToGateway);
    tell({ kind: 'frontDesk', text: 'Help at the quay' } as ToGateway);
    const state = await says('trafficState', ({ frontDesk }) => frontDesk.length > 0);
    expect(state.frontDesk).toEqual(['Help at the quay']);
    expect(moods).toEqual(['slow']);
  });
});

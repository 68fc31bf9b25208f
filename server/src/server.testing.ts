import { randomBytes } from 'node:crypto';
import type { LightMyRequestResponse } from 'fastify';
import pino from 'pino';
import { expect } from 'vitest';
import WebSocket from 'ws';
import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import { registerRequest } from '@night-bell/core/sip/client';
import { digestSecret } from '@night-bell/core/sip/digest';
import { readSip, type SipResponse, writeSip } from '@night-bell/core/sip/message';
import { type AppOptions, buildApp, type NightBell } from './app.ts';
import type { NewPerson } from './areas/people/create.ts';
import { connect, type Database } from './database/connection.ts';
import { migrate } from './database/migrate.ts';
import { realm } from './live/registrar.ts';
import { firstAdministratorCode } from './security/first-administrator.ts';
import { SecretBox } from './security/secret-box.ts';

export const gatewayKey = 'key of the tests';
export const password = 'a bell in the night';

/** A database of its own in the cluster that npm test started; with the tables of today, or with what `fill` gives it. */
export async function freshDatabase(fill: (database: Database) => Promise<unknown> = migrate): Promise<{
  url: string;
  database: Database;
  drop: () => Promise<void>;
}> {
  const cluster = process.env.NIGHT_BELL_TEST_DATABASE;
  if (cluster === undefined) throw new Error('Run these through npm test, which starts PostgreSQL.');
  const name = `test_${randomBytes(6).toString('hex')}`;
  const admin = connect(cluster);
  await admin.raw(`create database ${name}`);
  const url = cluster.replace(/\/postgres$/, `/${name}`);
  const database = connect(url);
  await fill(database);
  const drop = async () => {
    await database.destroy();
    await admin.raw(`drop database ${name} with (force)`);
    await admin.destroy();
  };
  return { url, database, drop };
}

/** The same in every run: a dump of an installation opens with it (fixtures/). */
export const seal = new SecretBox(Buffer.alloc(32, 7));

export async function startServer(database: Database, more: Partial<AppOptions> = {}): Promise<NightBell> {
  const night = await buildApp({
    database,
    seal,
    gatewayKey,
    webFolder: null,
    logger: pino({ level: 'silent' }),
    checkReplies: true,
    requestsPerMinute: { session: 100_000, address: 100_000 },
    ...more,
  });
  await night.live.start();
  return night;
}

export interface Answer<T = Record<string, never>> {
  status: number;
  body: T;
}

/** Somebody at a browser: keeps the cookie and the token, as the web client does. */
export class Browser {
  private readonly night: NightBell;
  private readonly cookies = new Map<string, string>();
  token = '';

  constructor(night: NightBell) {
    this.night = night;
  }

  get cookieHeader(): string {
    return [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ');
  }

  async send<T = never>(
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    url: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const response = await this.night.app.inject({
      method,
      url,
      headers: {
        cookie: this.cookieHeader,
        ...(method === 'GET' ? {} : { 'x-night-bell-token': this.token }),
        ...headers,
      },
      ...(body === undefined ? {} : { payload: body as object }),
    });
    for (const { name, value } of response.cookies) this.cookies.set(name, value);
    const isJson = String(response.headers['content-type'] ?? '').includes('json');
    return { status: response.statusCode, body: (isJson ? response.json() : null) as T };
  }

  async signIn(login: string, secret: string): Promise<number> {
    const { status } = await this.send('POST', '/api/session', { login, password: secret });
    if (status < 300) await this.readToken();
    return status;
  }

  async readToken(): Promise<void> {
    this.token = (await this.send<{ token: string | null }>('GET', '/api/session')).body.token ?? '';
  }
}

/** All stretches of a list, as a script follows their links. */
export async function walkPages<Row>(night: NightBell, browser: Browser, path: string): Promise<Row[]> {
  const all: Row[] = [];
  for (let url: string | undefined = path; url !== undefined;) {
    const answer: LightMyRequestResponse = await night.app.inject({
      url,
      headers: { cookie: browser.cookieHeader },
    });
    expect(answer.statusCode).toBe(200);
    all.push(...answer.json<Row[]>());
    url = /^<([^>]+)>; rel="next"$/.exec(String(answer.headers.link ?? ''))?.[1];
  }
  return all;
}

/** The first administrator of an empty installation, signed in. */
export async function firstAdministrator(night: NightBell, database: Database): Promise<Browser> {
  const browser = new Browser(night);
  const code = await firstAdministratorCode(database, seal);
  const { status } = await browser.send('POST', '/api/installation', {
    code,
    company: 'Test Ferries',
    timeZone: 'America/Los_Angeles',
    name: 'Ada Admin',
    login: 'ada',
    password,
  });
  expect(status).toBe(204);
  await browser.readToken();
  return browser;
}

/** A server on a database of its own, with its first administrator; with a gateway connected when one is given. */
export async function openNight(
  gateway?: TestGateway,
  trunkHosts: string[] = [],
  more: Partial<AppOptions> = {},
): Promise<{
  night: NightBell;
  admin: Browser;
  address: string;
  database: Database;
  drop: () => Promise<void>;
}> {
  const fresh = await freshDatabase();
  const night = await startServer(fresh.database, more);
  const address = await night.app.listen({ port: 0, host: '127.0.0.1' });
  const admin = await firstAdministrator(night, fresh.database);
  if (gateway !== undefined) {
    await until(() => night.live.isHost, 'the server hosts the exchange');
    await gateway.connect(address, gatewayKey, { legs: [], calls: [], trunkHosts });
  }
  const drop = async () => {
    gateway?.close();
    await night.close();
    await fresh.drop();
  };
  return { night, admin, address, database: fresh.database, drop };
}

/** A person of a role, with an own password, signed in. */
export async function personSignedIn(
  night: NightBell,
  admin: Browser,
  name: string,
  role: string,
  more: object = {},
): Promise<{ browser: Browser; made: NewPerson }> {
  const made = (await admin.send<NewPerson>('POST', '/api/people', { name, role, ...more })).body;
  const browser = new Browser(night);
  expect(await browser.signIn(made.login, made.signInCode)).toBe(204);
  expect((await browser.send('PUT', '/api/session/password', { password })).status).toBe(204);
  await browser.readToken();
  return { browser, made };
}

/** Waits for a state, never for a time. */
export async function until<T>(look: () => T | Promise<T>, what: string): Promise<NonNullable<T>> {
  const end = Date.now() + 15_000;
  for (;;) {
    const found = await look();
    if (found !== null && found !== undefined && found !== false) return found;
    if (Date.now() > end) throw new Error(`waited in vain until ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 15));
  }
}

/** A gateway whose phones and callers do just what the test says. */
export class TestGateway {
  readonly heard: ToGateway[] = [];
  private socket: WebSocket | null = null;
  private sequence = 0;

  async connect(
    address: string,
    key = gatewayKey,
    alive: { legs: string[]; calls: string[]; trunkHosts?: string[] } = { legs: [], calls: [] },
  ): Promise<void> {
    const socket = new WebSocket(`${address.replace(/^http/, 'ws')}/devices`, {
      headers: { authorization: `Bearer ${key}` },
    });
    this.socket = socket;
    socket.on('message', (data: Buffer) => this.heard.push(JSON.parse(data.toString()) as ToGateway));
    await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
    this.say({ kind: 'hello', gateway: 'test', ...alive });
  }

  say(message: FromGateway): void {
    this.socket!.send(JSON.stringify(message));
  }

  close(): void {
    this.socket?.close();
  }

  get closed(): boolean {
    return this.socket?.readyState === WebSocket.CLOSED;
  }

  wait<Kind extends ToGateway['kind']>(
    kind: Kind,
    fits: (message: Extract<ToGateway, { kind: Kind }>) => boolean = () => true,
  ): Promise<Extract<ToGateway, { kind: Kind }>> {
    return until(
      () =>
        this.heard.find(
          (message): message is Extract<ToGateway, { kind: Kind }> =>
            message.kind === kind && fits(message as never),
        ),
      `the gateway hears ${kind}`,
    );
  }

  /** REGISTER, 401, REGISTER; resolves to the last status. */
  async register(account: string, secret: string): Promise<number> {
    const phone = {
      account,
      domain: realm,
      transport: 'tls' as const,
      contact: `sip:${account}@192.0.2.5`,
      secret: digestSecret(account, realm, secret),
      callId: account,
      expires: 600,
    };
    const challenge = await this.exchangeSip(
      account,
      writeSip(registerRequest(phone, ++this.sequence, `b${this.sequence}`)!),
    );
    expect(challenge.status).toBe(401);
    return (
      await this.exchangeSip(
        account,
        writeSip(registerRequest(phone, ++this.sequence, `b${this.sequence}`, challenge)!),
      )
    ).status;
  }

  private async exchangeSip(device: string, message: string): Promise<SipResponse> {
    const before = this.heard.length;
    this.say({ kind: 'sip', device, message });
    const answer = await until(
      () =>
        this.heard
          .slice(before)
          .find(
            (each) => each.kind === 'sip' && each.device === device && each.message.startsWith('SIP/2.0'),
          ),
      'the registrar answers',
    );
    return readSip((answer as { message: string }).message) as SipResponse;
  }
}

import type { IncomingHttpHeaders } from 'node:http';
import { request } from 'node:https';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import type { AppOptions, NightBell } from '../app.ts';
import { makeCertificate } from '../areas/trunks/certificate.ts';
import type { Database } from '../database/connection.ts';
import {
  type Browser,
  firstAdministrator,
  freshDatabase,
  password,
  startServer,
  until,
} from '../server.testing.ts';

const metricsKey = 'a key for whoever watches';
let database: Database;
let drop: () => Promise<void>;
let night: NightBell;
let admin: Browser;
const folder = mkdtempSync(join(tmpdir(), 'night-bell-'));

beforeAll(async () => {
  writeFileSync(
    join(folder, 'index.html'),
    `<meta name="style-nonce" content="__STYLE_NONCE__">
<link data-for="frame" rel="modulepreload" href="/frame.js">
<link data-for="page" rel="modulepreload" href="/kit.js">
<div id="app">`,
  );
  writeFileSync(join(folder, 'some.js'), 'void 0;');
  const fresh = await freshDatabase();
  ({ database } = fresh);
  night = await startServer(database);
  admin = await firstAdministrator(night, database);
  await night.close();
  drop = async () => {
    await fresh.drop();
    rmSync(folder, { recursive: true });
  };
});
afterAll(() => drop());
afterEach(() => night.close());

async function start(more: Partial<AppOptions> = {}): Promise<void> {
  night = await startServer(database, { webFolder: folder, metricsKey, ...more });
}
const get = (url: string, headers: Record<string, string> = {}, remoteAddress = '192.0.2.1') =>
  night.app.inject({ method: 'GET', url, headers, remoteAddress });
const signIn = (headers: Record<string, string> = {}, remoteAddress = '192.0.2.1') =>
  night.app.inject({
    method: 'POST',
    url: '/api/session',
    headers,
    remoteAddress,
    payload: { login: 'ada', password },
  });

describe('behind a proxy', () => {
  const forwarded = {
    'x-forwarded-proto': 'https',
    'x-forwarded-for': '203.0.113.9',
    'x-forwarded-host': 'bell.example',
  };

  test('that is trusted, protocol, address and host are as it says', async () => {
    await start({ trustedProxies: ['192.0.2.0/24'] });
    const answer = await signIn({ ...forwarded, origin: 'https://bell.example' });
    expect(answer.statusCode).toBe(204);
    expect(answer.headers['strict-transport-security']).toMatch(/max-age=31536000/);
    expect(answer.cookies.map((cookie) => [cookie.secure, cookie.httpOnly])).toEqual([
      [true, true],
      [true, true],
    ]);
    expect((await database('session').orderBy('created_at', 'desc').first())!.address).toBe('203.0.113.9');
  });

  test('that is not trusted, nothing it says counts', async () => {
    await start({ trustedProxies: ['198.51.100.1'] });
    const answer = await signIn({ ...forwarded, host: 'bell.example' });
    expect(answer.headers['strict-transport-security']).toBeUndefined();
    expect(answer.cookies.every((cookie) => cookie.secure !== true)).toBe(true);
    expect((await database('session').orderBy('created_at', 'desc').first())!.address).toBe('192.0.2.1');
  });
});

test('with a certificate of its own it speaks TLS, and browsers are told to stay there', async () => {
  const { certificate, key } = await makeCertificate('bell.example', 'Test Ferries');
  await start({ tls: { cert: Buffer.from(certificate), key: Buffer.from(key) } });
  const address = await night.app.listen({ port: 0, host: '127.0.0.1' });
  expect(address).toMatch(/^https:/);
  const headers = await new Promise<IncomingHttpHeaders>((resolve, reject) =>
    request(`${address}/api/health`, { rejectUnauthorized: false }, (answer) =>
      resolve(answer.resume().headers),
    )
      .on('error', reject)
      .end(),
  );
  expect(headers['strict-transport-security']).toMatch(/max-age/);
});

test.each(['null', 'garbage', 'http://', 'file://', 'http://elsewhere.example'])(
  'an origin that is %s is another site, and no fault of ours',
  async (origin) => {
    await start();
    expect((await signIn({ origin })).json()).toMatchObject({ status: 403, code: 'forgedRequest' });
  },
);

test('the page names what will be needed to who bears a session, and nothing of it to a visitor', async () => {
  await start();
  const cookie = (await signIn()).cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  const ahead = async (url: string, headers: Record<string, string>) =>
    [...(await get(url, headers)).body.matchAll(/href="\/([a-z]+)\.js"/g)].map(([, name]) => name);
  expect(await ahead('/people', {})).toEqual([]);
  expect(await ahead('/', { cookie })).toEqual(['frame']);
  expect(await ahead('/people', { cookie })).toEqual(['frame', 'kit']);
});

describe('limits', () => {
  test('count a sign-in by itself, an address without one, and neither pages nor files', async () => {
    await start({ requestsPerMinute: { session: 8, address: 4 } });
    const cookie = (await signIn({}, '192.0.2.9')).cookies
      .map(({ name, value }) => `${name}=${value}`)
      .join('; ');
    const asked = async (times: number, headers: Record<string, string>, url = '/api/session') => {
      const statuses = [];
      for (let i = 0; i < times; i++) statuses.push((await get(url, headers)).statusCode);
      return statuses.filter((status) => status === 429).length;
    };
    expect(await asked(5, {})).toBe(1);
    // At the same address, signed in: a count of one's own.
    expect(await asked(9, { cookie })).toBe(1);
    expect(await asked(20, {}, '/people')).toBe(0);
    expect(await asked(20, {}, '/some.js')).toBe(0);
  });

  test('are told to a program as a problem with a wait, to somebody at a browser as a page', async () => {
    await start({ requestsPerMinute: { session: 8, address: 1 } });
    await get('/api/session');
    const problem = await get('/api/session');
    expect([problem.statusCode, problem.json().code]).toEqual([429, 'tooMany']);
    expect(Number(problem.headers['retry-after'])).toBeGreaterThan(0);
    const page = await get('/api/session', { 'sec-fetch-mode': 'navigate' });
    expect([page.statusCode, page.headers['content-type']]).toEqual([429, 'text/html; charset=utf-8']);
    expect(page.body).toMatch(/Too many requests. Wait \d+ s/);
  });
});

describe('paths', () => {
  test('of pages answer with the page and a nonce of their own; nothing else is a page', async () => {
    await start();
    for (const path of ['/', '/people', '/calls/0198', '/enrol?code=1']) {
      const answer = await get(path);
      expect([answer.statusCode, answer.headers['cache-control']], path).toEqual([200, 'no-store']);
      const nonce = /content="(\w+)"/.exec(answer.body)![1]!;
      expect(String(answer.headers['content-security-policy'])).toContain(`'nonce-${nonce}'`);
    }
    const nonces = await Promise.all([get('/'), get('/')]).then((pages) => pages.map((page) => page.body));
    expect(nonces[0]).not.toBe(nonces[1]);
    expect(String((await get('/')).headers['content-security-policy'])).not.toContain('unsafe-inline');
    for (const path of ['/wp-login.php', '/people/a/b', '/.env', '/..%2f..%2fetc/passwd', '/api/nothing']) {
      const answer = await get(path);
      expect([answer.statusCode, answer.json().code], path).toEqual([404, 'notFound']);
    }
  });

  test('that do not exist show somebody at a browser a page, with 404', async () => {
    await start();
    const answer = await get('/nothing', { 'sec-fetch-mode': 'navigate' });
    expect([answer.statusCode, answer.body.includes('id="app"')]).toEqual([404, true]);
    const api = await get('/api/nothing', { 'sec-fetch-mode': 'navigate' });
    expect([api.statusCode, api.body]).toEqual([
      404,
      expect.stringContaining('There is no GET /api/nothing.'),
    ]);
  });
});

describe('what is sent', () => {
  test.each([
    ['a NUL', { name: 'a\u0000b' }],
    ['half of a character', { name: '\ud800' }],
  ])('with %s is refused at its field', async (_what, body) => {
    await start();
    const browser = admin;
    Object.assign(browser, { night });
    expect(await browser.signIn('ada', password)).toBe(204);
    const answer = await browser.send<{ errors: { path: string }[] }>('POST', '/api/people', body);
    expect([answer.status, answer.body.errors[0]!.path]).toEqual([422, '/name']);
  });

  test('as a version beyond all versions is no version', async () => {
    await start();
    Object.assign(admin, { night });
    await admin.signIn('ada', password);
    const id = '00000000-0000-7000-8000-000000000000';
    for (const version of ['"99999999999"', '"2147483648"', '"-1"', 'W/"1"', '"1e9"'])
      expect(
        (await admin.send('POST', `/api/people/${id}/retire`, {}, { 'if-match': version })).status,
        version,
      ).toBe(428);
  });
});

describe('for whoever watches', () => {
  test('health asks nobody; ready asks database, log and host', async () => {
    await start();
    await until(() => night.live.isHost, 'it hosts');
    expect((await get('/api/health')).json()).toEqual({ ok: true });
    expect((await get('/api/ready')).json()).toMatchObject({ hosting: true, hostedSomewhere: true, lag: 0 });
    await night.live.close();
    // Followed no more: what the log says now is not known here.
    await database('exchange_host').update({ renewed_at: new Date(0) });
    const answer = await get('/api/ready');
    expect([answer.statusCode, answer.headers['retry-after']]).toEqual([503, '1']);
  });

  test('metrics are shown with their key only, as OpenMetrics, without names of people', async () => {
    await start();
    await until(() => night.live.isHost, 'it hosts');
    await night.live.settled();
    expect((await get('/metrics')).statusCode).toBe(401);
    expect((await get('/metrics', { authorization: 'Bearer guess' })).statusCode).toBe(401);
    const answer = await get('/metrics', { authorization: `Bearer ${metricsKey}` });
    expect(answer.statusCode).toBe(200);
    expect(answer.headers['content-type']).toMatch(/^application\/openmetrics-text/);
    expect(answer.body).toContain('night_bell_hosting 1');
    expect(answer.body).toContain('night_bell_agents{state="signedOut"} 1');
    expect(answer.body).toMatch(/night_bell_commit_seconds_count [1-9]/);
    expect(answer.body.trimEnd().endsWith('# EOF')).toBe(true);
    expect(answer.body).not.toContain('Ada');
    await night.close();
    await start({ metricsKey: null });
    expect((await get('/metrics')).statusCode).toBe(404);
  });

  test('every answer bears the number under which the log speaks of it', async () => {
    await start();
    const [one, two] = await Promise.all([get('/api/health'), get('/api/health')]);
    expect(one.headers['x-request-id']).toMatch(/^[0-9a-f-]{36}$/);
    expect(one.headers['x-request-id']).not.toBe(two.headers['x-request-id']);
  });
});

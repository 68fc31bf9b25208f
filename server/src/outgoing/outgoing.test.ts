import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import { Outgoing, type OutgoingFault } from './outgoing.ts';

let server: Server;
let other: Server;
let port: number;
let otherPort: number;
let heard: { url: string; key: string | undefined }[] = [];
let answer: (request: IncomingMessage, response: ServerResponse) => void;

const listen = (made: Server) =>
  new Promise<number>((resolve) =>
    made.listen(0, '127.0.0.1', () => resolve((made.address() as { port: number }).port)),
  );
beforeAll(async () => {
  const hear = (request: IncomingMessage, response: ServerResponse) => {
    heard.push({ url: request.url!, key: request.headers.authorization });
    answer(request, response);
  };
  server = createServer(hear);
  other = createServer(hear);
  port = await listen(server);
  otherPort = await listen(other);
});
afterAll(() => {
  for (const each of [server, other]) {
    each.closeAllConnections();
    each.close();
  }
});
beforeEach(() => {
  heard = [];
  answer = (_request, response) => response.end('{"ok":true}');
});

const outgoing = (...allowed: string[]) => new Outgoing(() => Promise.resolve(new Set(allowed)));
const get = (door: Outgoing, url: string, more: object = {}) =>
  door.ask(url, {
    method: 'GET',
    secretHeaders: { authorization: 'Bearer secret' },
    timeoutMs: 1_000,
    mostBytes: 10_000,
    ...more,
  });
const faultOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: OutgoingFault) => [error.code, error.where],
  );

describe('an address on this machine', () => {
  test('is not asked, by number or by name, and nothing is sent', async () => {
    expect(await faultOf(get(outgoing(), `http://127.0.0.1:${port}/`))).toEqual([
      'refused',
      `127.0.0.1:${port}`,
    ]);
    expect(await faultOf(get(outgoing(), `http://localhost:${port}/`))).toEqual([
      'refused',
      `localhost:${port}`,
    ]);
    expect(await faultOf(get(outgoing(), `http://[::ffff:127.0.0.1]:${port}/`))).toEqual([
      'refused',
      `[::ffff:7f00:1]:${port}`,
    ]);
    // Other ways to write the same number: a URL knows only one.
    for (const host of ['2130706433', '0x7f.1', '127.1'])
      expect(await faultOf(get(outgoing(), `http://${host}:${port}/`))).toEqual([
        'refused',
        `127.0.0.1:${port}`,
      ]);
    expect(heard).toEqual([]);
  });

  test('is asked when it is allowed by host and port, and no other port is', async () => {
    const door = outgoing(`127.0.0.1:${port}`);
    expect(await get(door, `http://127.0.0.1:${port}/a`)).toMatchObject({ status: 200, text: '{"ok":true}' });
    expect(await faultOf(get(door, `http://127.0.0.1:${otherPort}/`))).toEqual([
      'refused',
      `127.0.0.1:${otherPort}`,
    ]);
    expect(heard).toEqual([{ url: '/a', key: 'Bearer secret' }]);
  });
});

describe('a redirect', () => {
  test('is followed only where the address may be asked too', async () => {
    answer = (_request, response) =>
      response.writeHead(302, { location: `http://127.0.0.1:${otherPort}/inner` }).end();
    expect(await faultOf(get(outgoing(`127.0.0.1:${port}`), `http://127.0.0.1:${port}/`))).toEqual([
      'refused',
      `127.0.0.1:${otherPort}`,
    ]);
    expect(heard).toHaveLength(1);
  });

  test('to another origin goes without the key; on the same it keeps it', async () => {
    answer = ({ url }, response) => {
      if (url === '/one') response.writeHead(302, { location: '/two' }).end();
      else if (url === '/two')
        response.writeHead(302, { location: `http://127.0.0.1:${otherPort}/three` }).end();
      else response.end('there');
    };
    const door = outgoing(`127.0.0.1:${port}`, `127.0.0.1:${otherPort}`);
    expect((await get(door, `http://127.0.0.1:${port}/one`)).text).toBe('there');
    expect(heard.map(({ url, key }) => [url, key])).toEqual([
      ['/one', 'Bearer secret'],
      ['/two', 'Bearer secret'],
      ['/three', undefined],
    ]);
  });

  test('without end, to another kind of address, or of a change, is not followed', async () => {
    const door = outgoing(`127.0.0.1:${port}`);
    answer = (_request, response) => response.writeHead(302, { location: '/again' }).end();
    expect(await faultOf(get(door, `http://127.0.0.1:${port}/`))).toEqual(['redirects', '']);
    expect(heard).toHaveLength(4);
    expect(await faultOf(get(door, `http://127.0.0.1:${port}/`, { method: 'PUT', body: '{}' }))).toEqual([
      'redirects',
      '',
    ]);
    answer = (_request, response) => response.writeHead(302, { location: 'file:///etc/passwd' }).end();
    expect(await faultOf(get(door, `http://127.0.0.1:${port}/`))).toEqual(['redirects', '']);
  });
});

describe('an answer', () => {
  test('is cut off while it comes in, when it is too long', async () => {
    let sent = 0;
    let closed = false;
    answer = (_request, response) => {
      response.on('close', () => (closed = true));
      const more = () => {
        while (!closed && sent < 1e9) {
          sent += 65_536;
          if (!response.write(Buffer.alloc(65_536))) return void response.once('drain', more);
        }
      };
      more();
    };
    expect(await faultOf(get(outgoing(`127.0.0.1:${port}`), `http://127.0.0.1:${port}/`))).toEqual([
      'tooLong',
      '',
    ]);
    expect(sent).toBeLessThan(20_000_000);
  });

  test('that does not come, or stops half-way, is not waited for', async () => {
    const door = outgoing(`127.0.0.1:${port}`);
    answer = () => undefined;
    expect(await faultOf(get(door, `http://127.0.0.1:${port}/`, { timeoutMs: 100 }))).toEqual(['slow', '']);
    answer = (_request, response) => void response.write('{');
    expect(await faultOf(get(door, `http://127.0.0.1:${port}/`, { timeoutMs: 100 }))).toEqual(['slow', '']);
  });

  test('of nobody is said to be away', async () => {
    expect(await faultOf(get(outgoing('127.0.0.1:1'), 'http://127.0.0.1:1/'))).toEqual(['away', '']);
  });
});

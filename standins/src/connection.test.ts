import { once } from 'node:events';
import { createServer } from 'node:http';
import { afterEach, expect, test } from 'vitest';
import { type WebSocket, WebSocketServer } from 'ws';
import type { ToGateway } from '@night-bell/core/devices/protocol';
import { Connection } from './connection.ts';

const open: { close(): void }[] = [];
afterEach(() => {
  for (const each of open.splice(0)) each.close();
});

async function server(): Promise<{ address: string; sockets: WebSocketServer }> {
  const sockets = new WebSocketServer({ host: '127.0.0.1', port: 0 });
  open.push(sockets);
  await once(sockets, 'listening');
  const { port } = sockets.address() as { port: number };
  return { address: `http://127.0.0.1:${port}`, sockets };
}

function connect(addresses: string[], hear: (message: ToGateway) => void = () => undefined) {
  const connection = new Connection(
    { addresses, key: 'a key' },
    { opened: () => connection.say({ kind: 'hungUp', leg: 'c1.1' }), hear },
  );
  open.push({ close: () => connection.stop() });
  connection.start();
  return connection;
}

test('it shows its key, speaks as soon as it is connected, and hears', async () => {
  const { address, sockets } = await server();
  const heard = new Promise<ToGateway>((resolve) => connect([address], resolve));
  const [socket, request] = (await once(sockets, 'connection')) as [
    WebSocket,
    { url: string; headers: { authorization: string } },
  ];
  expect([request.url, request.headers.authorization]).toEqual(['/devices', 'Bearer a key']);
  const [data] = (await once(socket, 'message')) as [Buffer];
  expect(JSON.parse(data.toString())).toEqual({ kind: 'hungUp', leg: 'c1.1' });
  socket.send(JSON.stringify({ kind: 'traffic', on: true, speed: 2 }));
  expect(await heard).toEqual({ kind: 'traffic', on: true, speed: 2 });
});

test('a server that does not host sends it on: the next address is tried, round and round', async () => {
  const [first, second] = [await server(), await server()];
  first.sockets.on('connection', (socket) => socket.close(4503, 'not hosting'));
  const connection = connect([first.address, second.address]);
  const [socket] = (await once(second.sockets, 'connection')) as [WebSocket];
  expect(connection.address).toBe(second.address);
  const again = once(first.sockets, 'connection');
  socket.close(1001, 'going away');
  await again;
  expect(connection.address).toBe(first.address);
});

test('what is said while nobody is connected is lost, and harms nothing', () => {
  const connection = new Connection(
    { addresses: ['http://127.0.0.1:9'], key: '' },
    { opened: () => undefined, hear: () => undefined },
  );
  expect(() => connection.say({ kind: 'hungUp', leg: 'c1.1' })).not.toThrow();
});

/** A server that answers posts, each as the list says; the last for all that follow. */
async function answering(...statuses: number[]): Promise<{ address: string; asked: string[] }> {
  const asked: string[] = [];
  const http = createServer((request, response) => {
    asked.push(request.url ?? '');
    response.writeHead(statuses[Math.min(asked.length, statuses.length) - 1]!).end('{}');
  });
  open.push(http);
  http.listen(0, '127.0.0.1');
  await once(http, 'listening');
  return { address: `http://127.0.0.1:${(http.address() as { port: number }).port}`, asked };
}

test('what is asked is asked again until some server answers; what is refused is not', async () => {
  const dead = 'http://127.0.0.1:9';
  const starting = await answering(503, 201);
  const connection = new Connection(
    { addresses: [dead, starting.address], key: '' },
    { opened: () => undefined, hear: () => undefined },
  );
  expect((await connection.post('/api/enrolments', { code: 'A' }))?.status).toBe(201);
  expect(starting.asked).toEqual(['/api/enrolments', '/api/enrolments']);
  const refusing = await answering(401);
  const other = new Connection(
    { addresses: [refusing.address, dead], key: '' },
    { opened: () => undefined, hear: () => undefined },
  );
  expect((await other.post('/api/enrolments', { code: 'B' }))?.status).toBe(401);
  expect(refusing.asked).toHaveLength(1);
  other.stop();
  expect(await other.post('/api/enrolments', { code: 'C' })).toBeNull();
});

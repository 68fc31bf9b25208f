import { timingSafeEqual } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';

const longestBody = 64 * 1024;

/** A service of its own over HTTP. Whoever asks may go away in the middle of it: that ends their request and no more. */
export function httpService(
  answer: (request: IncomingMessage, response: ServerResponse) => Promise<void>,
): Server {
  return createServer((request, response) => {
    response.on('error', () => response.destroy());
    answer(request, response).catch(() => {
      if (response.headersSent || response.destroyed) response.destroy();
      else json(response, 400, { error: 'cannot be read' });
    });
  });
}

/** Listens on loopback; resolves to the port. */
export function listen(server: Server, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve((server.address() as { port: number }).port));
  });
}

export function stopListening(server: Server): Promise<void> {
  server.closeAllConnections();
  return new Promise((resolve) => server.close(() => resolve()));
}

/** Whether the request shows the key. */
export function showsKey(request: IncomingMessage, key: string): boolean {
  const sent = Buffer.from(request.headers.authorization ?? '');
  const expected = Buffer.from(`Bearer ${key}`);
  return sent.length === expected.length && timingSafeEqual(sent, expected);
}

export function json(response: ServerResponse, status: number, value: unknown): void {
  response.writeHead(status, { 'content-type': 'application/json' });
  response.end(JSON.stringify(value));
}

/** The JSON a request carries. Throws when it is too long or none. */
export async function readJson(request: IncomingMessage): Promise<unknown> {
  let text = '';
  for await (const part of request) {
    text += String(part);
    if (text.length > longestBody) throw new Error('too long');
  }
  return JSON.parse(text);
}

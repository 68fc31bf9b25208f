import { timingSafeEqual } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { Book, BookRecord } from './book.ts';

/** How it behaves: well, too slow to wait for, or as if broken. */
export type Mood = 'well' | 'slow' | 'broken';

const longestBody = 64 * 1024;
const slowMs = 8_000;

/** Harbour Book, the stand-in customer system: records over HTTP with a key, and a page for each record. */
export class HarbourBook {
  mood: Mood = 'well';
  private readonly book: Book;
  private readonly key: string;
  private readonly server: Server;

  constructor(book: Book, key: string) {
    this.book = book;
    this.key = key;
    this.server = createServer((request, response) => void this.answer(request, response));
  }

  listen(port: number): Promise<number> {
    return new Promise((resolve) => {
      this.server.listen(port, '127.0.0.1', () => resolve((this.server.address() as { port: number }).port));
    });
  }

  close(): Promise<void> {
    this.book.save();
    this.server.closeAllConnections();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://harbour.book');
    const page = /^\/pages\/([A-Z0-9-]+)$/.exec(url.pathname);
    if (page !== null) return this.page(response, page[1]!);
    if (this.mood === 'slow') await new Promise((resolve) => setTimeout(resolve, slowMs));
    if (this.mood === 'broken') return json(response, 500, { error: 'the harbour is iced up' });
    if (!this.mayEnter(request)) return json(response, 401, { error: 'wrong key' });
    const record = /^\/api\/records\/([A-Za-z0-9-]+)$/.exec(url.pathname);
    const call = /^\/api\/records\/([A-Za-z0-9-]+)\/calls\/([0-9a-f-]{36})$/.exec(url.pathname);
    if (url.pathname === '/api/status')
      return json(response, 200, { name: 'Harbour Book', records: this.book.size });
    if (url.pathname === '/api/records') return this.list(response, url.searchParams);
    if (record !== null) {
      const found = this.book.get(record[1]!);
      return found === undefined ? json(response, 404, {}) : json(response, 200, shown(found));
    }
    if (call !== null && request.method === 'PUT')
      return this.writeCall(request, response, call[1]!, call[2]!);
    json(response, 404, { error: 'no such thing' });
  }

  private mayEnter(request: IncomingMessage): boolean {
    const sent = Buffer.from(request.headers.authorization ?? '');
    const expected = Buffer.from(`Bearer ${this.key}`);
    return sent.length === expected.length && timingSafeEqual(sent, expected);
  }

  private list(response: ServerResponse, query: URLSearchParams): void {
    const limit = Math.min(1_000, Math.max(1, Number(query.get('limit') ?? 200) || 200));
    const { records, next } = this.book.page(query.get('changedSince'), query.get('after'), limit);
    json(response, 200, { records: records.map(shown), next });
  }

  private async writeCall(
    request: IncomingMessage,
    response: ServerResponse,
    id: string,
    callId: string,
  ): Promise<void> {
    const record = this.book.get(id);
    if (record === undefined) return json(response, 404, {});
    let text = '';
    for await (const chunk of request) {
      text += String(chunk);
      if (text.length > longestBody) return json(response, 413, {});
    }
    try {
      const call = JSON.parse(text) as Record<string, unknown>;
      this.book.writeCall(record, callId, call, new Date().toISOString());
      json(response, 200, { taken: true });
    } catch {
      json(response, 400, { error: 'not JSON' });
    }
  }

  /** The record's own page, for people; without the key, as a browser that is signed in there would see it. */
  private page(response: ServerResponse, id: string): void {
    const record = this.book.get(id);
    const calls = Object.values(record?.calls ?? {}).sort((one, other) =>
      String(one.at) < String(other.at) ? 1 : -1,
    );
    const rows = (pairs: [string, unknown][]) =>
      pairs.map(([key, value]) => `<tr><th>${escaped(key)}</th><td>${escaped(value)}</td></tr>`).join('');
    const body =
      record === undefined
        ? '<h1>No such record</h1>'
        : `<h1>${escaped(record.name)}</h1><p>${escaped(record.id)}</p>
           <table>${rows([['numbers', record.numbers.join(', ')], ['owner', record.owner ?? 'nobody'], ...Object.entries(record.fields)])}</table>
           <h2>Calls</h2><table>${calls.map((call) => rows([[String(call.at), `${String(call.agent ?? 'nobody')}: ${String(call.outcome ?? call.result)} ${String(call.note ?? '')}`]])).join('')}</table>`;
    response.writeHead(record === undefined ? 404 : 200, {
      'content-type': 'text/html; charset=utf-8',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
    });
    response.end(
      `<!doctype html><title>Harbour Book</title><style>body{font:15px/22px sans-serif;max-width:640px;margin:40px auto}th{text-align:left;padding-right:24px;font-weight:normal;color:#555}</style><p>Harbour Book</p>${body}`,
    );
  }
}

function shown({ calls: _calls, ...record }: BookRecord): Omit<BookRecord, 'calls'> {
  return record;
}

function json(response: ServerResponse, status: number, body: unknown): void {
  response.writeHead(status, { 'content-type': 'application/json' });
  response.end(JSON.stringify(body));
}

function escaped(value: unknown): string {
  return String(value).replace(/[&<>"']/g, (character) => `&#${character.charCodeAt(0)};`);
}

import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import { httpService, json, listen, readJson, showsKey, stopListening } from '../http-service.ts';
import type { HarbourMood } from '@night-bell/core/devices/protocol';
import type { Book, BookRecord } from './book.ts';

const slowMs = 8_000;

/** Harbour Book, the stand-in customer system: records over HTTP with a key, and a page for each record. */
export class HarbourBook {
  mood: HarbourMood = 'well';
  private readonly book: Book;
  private readonly key: string;
  private readonly server: Server;

  constructor(book: Book, key: string) {
    this.book = book;
    this.key = key;
    this.server = httpService((request, response) => this.answer(request, response));
  }

  listen(port: number): Promise<number> {
    return listen(this.server, port);
  }

  close(): Promise<void> {
    this.book.save();
    return stopListening(this.server);
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://harbour.book');
    const page = /^\/pages\/([A-Z0-9-]+)$/.exec(url.pathname);
    if (page !== null) return this.page(response, page[1]!);
    if (this.mood === 'slow') await new Promise((resolve) => setTimeout(resolve, slowMs));
    // Until whoever asked has had enough.
    if (this.mood === 'hung') return;
    if (this.mood === 'huge') return endless(response);
    if (this.mood === 'broken') return json(response, 500, { error: 'the harbour is iced up' });
    if (!showsKey(request, this.key)) return json(response, 401, { error: 'wrong key' });
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
    const call = (await readJson(request)) as Record<string, unknown>;
    this.book.writeCall(record, callId, call, new Date().toISOString());
    json(response, 200, { taken: true });
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

function escaped(value: unknown): string {
  return String(value).replace(/[&<>"']/g, (character) => `&#${character.charCodeAt(0)};`);
}

/** An answer that does not end by itself: bounded only so that the stand-in itself does not fill a disk somewhere. */
async function endless(response: ServerResponse): Promise<void> {
  response.writeHead(200, { 'content-type': 'application/json' });
  response.write('{"records":[');
  const part = Buffer.alloc(1 << 20, ' ');
  for (let i = 0; i < 4_096 && !response.destroyed; i++) if (!response.write(part)) await drained(response);
  response.destroy();
}

function drained(response: ServerResponse): Promise<void> {
  return new Promise((resolve) => {
    const done = () => {
      response.off('drain', done).off('close', done);
      resolve();
    };
    response.on('drain', done).on('close', done);
  });
}

import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import { httpService, json, listen, readJson, showsKey, stopListening } from '../http-service.ts';
import { countries, type NumberKind, type Refusal, type Stock } from './stock.ts';

const mostFound = 100;

/** The number shop, a stand-in provider where numbers are found, held and rented, over HTTP with a key. */
export class NumberShop {
  private readonly stock: Stock;
  private readonly key: string;
  private readonly server: Server;

  constructor(stock: Stock, key: string) {
    this.stock = stock;
    this.key = key;
    this.server = httpService((request, response) => this.answer(request, response));
  }

  listen(port: number): Promise<number> {
    return listen(this.server, port);
  }

  close(): Promise<void> {
    return stopListening(this.server);
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://number.shop');
    if (!showsKey(request, this.key)) return json(response, 401, { error: 'wrong key' });
    const customer = String(request.headers['x-customer'] ?? '');
    const query = url.searchParams;
    const what = `${request.method} ${url.pathname}`;
    if (what === 'GET /countries') return json(response, 200, countries);
    if (what === 'GET /numbers')
      return json(
        response,
        200,
        this.stock.find({
          country: query.get('country') ?? '',
          kind: (query.get('kind') ?? 'local') as NumberKind,
          area: query.get('area') ?? '',
          place: query.get('place') ?? '',
          text: query.get('text') === 'true',
          customer,
          limit: Math.min(mostFound, Number(query.get('limit') ?? 40) || 40),
        }),
      );
    if (!/^(POST|DELETE) \/(holds|rentals)$/.test(what))
      return json(response, 404, { error: 'no such thing' });
    const { numbers } = (await readJson(request)) as { numbers: string[] };
    switch (what) {
      case 'POST /holds': {
        const held = this.stock.hold(numbers, customer);
        return typeof held === 'string' ? refuse(response, held) : json(response, 200, held);
      }
      case 'DELETE /holds':
        this.stock.release(numbers, customer);
        return json(response, 200, {});
      case 'POST /rentals': {
        const rented = this.stock.rent(numbers, customer);
        return rented === 'rented' ? json(response, 200, {}) : refuse(response, rented);
      }
      default:
        for (const number of numbers) this.stock.giveBack(number, customer);
        return json(response, 200, {});
    }
  }
}

function refuse(response: ServerResponse, refusal: Refusal): void {
  json(response, 409, { refusal });
}

import { Problem } from '../../http/problems.ts';
import { Outgoing, placeOf } from '../../outgoing/outgoing.ts';

/** Where the shop listens, and the key to it. */
export interface ShopConnection {
  address: string;
  key: string;
}

export interface ShopCountry {
  code: string;
  name: string;
  kinds: { kind: 'local' | 'tollFree'; text: boolean }[];
  nothingBecause: string | null;
}

export interface ShopOffer {
  number: string;
  country: string;
  kind: 'local' | 'tollFree';
  place: string;
  voice: boolean;
  text: boolean;
  monthly: string;
  reports: { by: string; on: string }[];
  held?: 'you' | 'other' | null;
}

const answerWithinMs = 5_000;
const longestAnswer = 1_000_000;

const refusals: Record<string, string> = {
  unknown: 'The shop does not have this number.',
  rented: 'Somebody has rented this number meanwhile. Choose another.',
  heldByOther: 'Somebody else holds this number for the moment. Choose another, or try again in ten minutes.',
  holdOver: 'The hold has run out. Hold the number again; if nobody was faster it is still free.',
};

/** Speaks with the number shop. Every failure is a sentence. */
export class Shop {
  private readonly door: ShopConnection;
  private readonly customer: string;
  private readonly outgoing: Outgoing;

  constructor(door: ShopConnection, customer: string) {
    this.door = door;
    this.customer = customer;
    // Named by whoever runs this server, so it may be asked wherever it is.
    const place = placeOf(new URL(door.address));
    this.outgoing = new Outgoing(() => Promise.resolve(new Set([place])));
  }

  countries(): Promise<ShopCountry[]> {
    return this.ask('GET', '/countries');
  }

  find(query: Record<string, string>): Promise<ShopOffer[]> {
    return this.ask('GET', `/numbers?${new URLSearchParams(query).toString()}`);
  }

  hold(numbers: string[]): Promise<{ until: number; offers: ShopOffer[] }> {
    return this.ask('POST', '/holds', { numbers });
  }

  async release(numbers: string[]): Promise<void> {
    await this.ask('DELETE', '/holds', { numbers });
  }

  async rent(numbers: string[]): Promise<void> {
    await this.ask('POST', '/rentals', { numbers });
  }

  async giveBack(numbers: string[]): Promise<void> {
    await this.ask('DELETE', '/rentals', { numbers });
  }

  private async ask<T>(method: string, path: string, body?: unknown): Promise<T> {
    const { status, text } = await this.outgoing
      .ask(`${this.door.address}${path}`, {
        method,
        secretHeaders: { authorization: `Bearer ${this.door.key}`, 'x-customer': this.customer },
        headers: body === undefined ? {} : { 'content-type': 'application/json' },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        timeoutMs: answerWithinMs,
        mostBytes: longestAnswer,
      })
      .catch(() => {
        throw new Problem(
          'notNow',
          'The number shop does not answer. Nothing was rented. Try again in a moment.',
        );
      });
    const value = parsed(text) as T & { refusal?: string };
    if (status < 300) return value;
    throw new Problem(
      'notNow',
      refusals[value.refusal ?? ''] ?? 'The number shop refused. Nothing was rented.',
    );
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return {};
  }
}

import type { Logger } from 'pino';
import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import type { State } from '@night-bell/core/exchange/kernel/state';
import type { ArrivedText, WaitingText } from '../areas/texts/store.ts';

/** What becomes of texts in the database. */
export interface TextBook {
  keep: (text: ArrivedText) => Promise<string | null>;
  takeWaiting: () => Promise<WaitingText[]>;
  sent: (id: string, price: string) => Promise<void>;
  lost: (id: string, why: string) => Promise<void>;
}

/** How providers are reached: the exchange as it is now, on the server that hosts, and those of its trunks that are open. */
export interface TextWays {
  state: () => Readonly<State> | null;
  /** A text came: a step may wait for it. */
  arrived: (text: { to: string; from: string; body: string }) => void;
  /** Null when the trunk is closed or nobody reaches its provider. */
  sayOver: (trunkId: string) => { trunkHost: string; say: (message: ToGateway) => void } | null;
}

type FromProvider = FromGateway & { kind: 'text' | 'textSent' | 'textFailed' };

/** Texts out over trunks by the dialling rules, and in from providers. */
export class Texts {
  private readonly book: TextBook;
  private readonly ways: TextWays;
  private readonly logger: Logger;

  constructor(book: TextBook, ways: TextWays, logger: Logger) {
    this.book = book;
    this.ways = ways;
    this.logger = logger;
  }

  async hear(message: FromProvider, answer: (message: ToGateway) => void): Promise<void> {
    switch (message.kind) {
      case 'text': {
        const { ref, to, from, body, price } = message;
        const why = await this.book.keep({ ref, to, from, body: body.slice(0, 4_000), price });
        this.ways.arrived({ to, from, body });
        return answer({ kind: 'textTaken', ref, why });
      }
      case 'textSent':
        return this.book.sent(message.ref, message.price);
      case 'textFailed':
        return this.book.lost(message.ref, message.why);
    }
  }

  /** Nothing on a server that does not host: the one that does looks by itself. */
  async sendWaiting(): Promise<void> {
    const state = this.ways.state();
    if (state === null) return;
    try {
      for (const text of await this.book.takeWaiting()) await this.send(state, text);
    } catch (error) {
      this.logger.warn({ error: String(error) }, 'texts not sent');
    }
  }

  private async send(state: Readonly<State>, { id, from, to, body }: WaitingText): Promise<void> {
    const decision = state.dialPlan.decide(to, { kind: 'person', teamId: null });
    if (!('digits' in decision)) return this.book.lost(id, 'No dialling rule fits this number.');
    const byRule = decision.kind === 'rule' ? decision.rule.trunkIds : [];
    for (const trunkId of byRule.length > 0 ? byRule : state.trunks.keys()) {
      const way = this.ways.sayOver(trunkId);
      if (way === null) continue;
      const { trunkHost, say } = way;
      return say({ kind: 'sendText', ref: id, trunkHost, to: decision.digits, from, body });
    }
    return this.book.lost(id, 'No trunk is open that could carry it.');
  }
}

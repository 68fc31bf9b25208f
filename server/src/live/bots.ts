import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import type { BotAsked, BotReply } from '@night-bell/core/rehearse/test-call';
import type { Host } from './host.ts';

/** Asks bots for the exchange, and tells it what they said. */
export class Bots {
  private readonly ask: (asked: BotAsked) => Promise<BotReply>;
  private host: Host | null = null;

  constructor(ask: (asked: BotAsked) => Promise<BotReply>) {
    this.ask = ask;
  }

  hosting(host: Host): void {
    this.host = host;
  }

  notHosting(): void {
    this.host = null;
  }

  /** One that was asked before a crash is not asked again: its step waits as long as it says, and goes on without. */
  carryOut(effect: Effect): void {
    if (effect.kind !== 'askBot') return;
    const { callId, asked } = effect;
    void this.ask(effect).then((reply) =>
      this.host?.submit({ kind: 'botAnswered', callId, asked, ...reply }),
    );
  }
}

import type { Logger } from 'pino';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import type { ExchangeEventBody } from '@night-bell/core/exchange/kernel/events';
import type { MenuMessage } from '@night-bell/core/model/voicemail-menu';
import type { BotAsked, BotReply } from '@night-bell/core/rehearse/test-call';
import type { RecordFacts } from '@night-bell/core/story/facts';
import type { Host } from './host.ts';

/** Who is asked what steps want to know. */
export interface Asked {
  /** Whom the customer systems know by typed digits; throws when they do not answer. */
  lookUp: (digits: string, field: string, withinMs: number) => Promise<RecordFacts | null>;
  bot: (turn: BotAsked) => Promise<BotReply>;
  box: (boxId: string) => Promise<MenuMessage[]>;
}

/**
 * Answers the exchange when a step asks something outside it. What was asked before a crash is not asked again, and what
 * cannot be answered is not: the step waits as long as it says, and goes on without.
 */
export class HostAnswers {
  private readonly asked: Asked;
  private readonly logger: Logger;
  private host: Host | null = null;

  constructor(asked: Asked, logger: Logger) {
    this.asked = asked;
    this.logger = logger;
  }

  hosting(host: Host): void {
    this.host = host;
  }

  notHosting(): void {
    this.host = null;
  }

  carryOut(effect: Effect): void {
    const answer = this.answerTo(effect);
    void answer?.then(
      (event) => this.host?.submit(event),
      (error: unknown) =>
        this.logger.warn({ kind: effect.kind, error: String(error) }, 'a step was not answered'),
    );
  }

  private answerTo(effect: Effect): Promise<ExchangeEventBody> | null {
    switch (effect.kind) {
      case 'lookUp': {
        const { callId, asked, digits, field, withinSeconds } = effect;
        return this.asked.lookUp(digits, field, withinSeconds * 1_000).then(
          (record) => ({ kind: 'lookedUp', callId, asked, record, failed: false }),
          (error: unknown) => {
            this.logger.warn({ callId, error: String(error) }, 'the customer system could not be asked');
            return { kind: 'lookedUp', callId, asked, record: null, failed: true };
          },
        );
      }
      case 'askBot': {
        const { callId, asked } = effect;
        return this.asked.bot(effect).then((reply) => ({ kind: 'botAnswered', callId, asked, ...reply }));
      }
      case 'readBox': {
        const { callId, asked, boxId } = effect;
        return this.asked.box(boxId).then((messages) => ({ kind: 'boxRead', callId, asked, messages }));
      }
      default:
        return null;
    }
  }
}

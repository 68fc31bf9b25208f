import type { Logger } from 'pino';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import { lookUpRecord } from '../areas/records/look-up.ts';
import type { Database } from '../database/connection.ts';
import type { Outgoing } from '../outgoing/outgoing.ts';
import type { SecretBox } from '../security/secret-box.ts';
import type { Host } from './host.ts';

/** Answers the exchange when a step asks the customer system who somebody is, by what they typed. */
export class LookUps {
  private readonly ask: (digits: string, field: string, withinMs: number) => ReturnType<typeof lookUpRecord>;
  private readonly logger: Logger;
  private host: Host | null = null;

  constructor(database: Database, seal: SecretBox, outgoing: Outgoing, logger: Logger) {
    this.ask = (digits, field, withinMs) =>
      lookUpRecord({ database, seal, outgoing }, { digits, field, withinMs });
    this.logger = logger;
  }

  hosting(host: Host): void {
    this.host = host;
  }

  notHosting(): void {
    this.host = null;
  }

  /** One that was asked before a crash is not asked again: its step waits as long as it says, and goes on without. */
  carryOut(effect: Effect): void {
    if (effect.kind !== 'lookUp') return;
    const { callId, asked, digits, field, withinSeconds } = effect;
    void this.ask(digits, field, withinSeconds * 1_000).then(
      (record) => this.host?.submit({ kind: 'lookedUp', callId, asked, record, failed: false }),
      (error: unknown) => {
        this.logger.warn({ callId, error: String(error) }, 'the customer system could not be asked');
        this.host?.submit({ kind: 'lookedUp', callId, asked, record: null, failed: true });
      },
    );
  }
}

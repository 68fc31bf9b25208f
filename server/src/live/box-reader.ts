import type { Logger } from 'pino';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import type { MenuMessage } from '@night-bell/core/model/voicemail-menu';
import type { Host } from './host.ts';

/** Tells the exchange what a voicemail box holds, when somebody opens it from a phone. */
export class BoxReader {
  private readonly read: (boxId: string) => Promise<MenuMessage[]>;
  private readonly logger: Logger;
  private host: Host | null = null;

  constructor(read: (boxId: string) => Promise<MenuMessage[]>, logger: Logger) {
    this.read = read;
    this.logger = logger;
  }

  hosting(host: Host): void {
    this.host = host;
  }

  notHosting(): void {
    this.host = null;
  }

  /** What cannot be read is not answered: the step waits as long as it says, and goes on without. */
  carryOut(effect: Effect): void {
    if (effect.kind !== 'readBox') return;
    const { callId, asked, boxId } = effect;
    void this.read(boxId).then(
      (messages) => this.host?.submit({ kind: 'boxRead', callId, asked, messages }),
      (error: unknown) => this.logger.warn({ callId, error: String(error) }, 'a voicemail box was not read'),
    );
  }
}

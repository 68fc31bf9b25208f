import type { FromGateway } from '@night-bell/core/devices/protocol';
import { FileParts, incomingFax } from './file-parts.ts';
import type { KeepFax } from './gateway.ts';
import type { Host } from './host.ts';

/** Faxes on their way in: the file is kept before the exchange hears that the call is over. */
export class Faxes {
  private readonly parts = new FileParts(incomingFax);
  private readonly host: () => Host | null;
  private readonly keep: KeepFax;

  constructor(host: () => Host | null, keep: KeepFax) {
    this.host = host;
    this.keep = keep;
  }

  /** Takes a part, or the last one; returns why it cannot be taken, null when it was or nobody waits for it. */
  async hear(message: FromGateway & { kind: 'fax' | 'faxPart' }): Promise<string | null> {
    const { callId, file } = message;
    const call = this.host()?.exchange.view().calls.get(callId);
    const receives = call?.activity.kind === 'receivingFax';
    if (message.kind === 'faxPart') return receives ? this.parts.add(callId, file) : null;
    const to = call?.lastDestination;
    if (!receives || to?.kind !== 'fax') {
      this.drop(callId);
      return null;
    }
    const content = this.parts.take(callId, file);
    if (typeof content === 'string') return content;
    const { pages } = message;
    await this.keep({ boxId: to.id, callId, sender: call.from, pages, file: content });
    this.host()?.submit({ kind: 'faxReceived', callId, pages });
    return null;
  }

  /** The call is over. */
  drop(callId: string): void {
    this.parts.drop(callId);
  }
}

import { messageSummaryRequest } from '@night-bell/core/sip/message-summary';
import { writeSip } from '@night-bell/core/sip/message';
import type { Logger } from 'pino';
import type { PhoneBindings } from './phone-bindings.ts';
import { realm } from './registrar.ts';

/** The waiting messages of a phone's owner. */
export interface Waiting {
  phoneId: string;
  account: string;
  fresh: number;
  old: number;
}

/** Whose lamps: all phones of a box's owner, or these phones. */
export type WaitingFor = (whose: { boxIds: string[]; phoneIds: string[] }) => Promise<Waiting[]>;

/** Changes gather for so long: when everybody registers at once, they are looked up together. */
const gatherMs = 200;

/** The lamps of phones that tell of new messages (RFC 3842). */
export class Lamps {
  private readonly phones: PhoneBindings;
  private readonly waitingFor: WaitingFor;
  private readonly logger: Logger;
  private readonly boxIds = new Set<string>();
  private readonly phoneIds = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  private sequence = 0;

  constructor(phones: PhoneBindings, waitingFor: WaitingFor, logger: Logger) {
    this.phones = phones;
    this.waitingFor = waitingFor;
    this.logger = logger;
  }

  boxChanged(boxId: string): void {
    this.boxIds.add(boxId);
    this.soon();
  }

  phoneIsThere(phoneId: string): void {
    this.phoneIds.add(phoneId);
    this.soon();
  }

  close(): void {
    if (this.timer !== null) clearTimeout(this.timer);
  }

  private soon(): void {
    this.timer ??= setTimeout(() => {
      this.timer = null;
      this.tell().catch((error: unknown) => this.logger.warn({ error: String(error) }, 'lamps not set'));
    }, gatherMs);
  }

  private async tell(): Promise<void> {
    const whose = { boxIds: [...this.boxIds], phoneIds: [...this.phoneIds] };
    this.boxIds.clear();
    this.phoneIds.clear();
    if (this.phones.byPhone.size === 0) return;
    for (const { phoneId, account, fresh, old } of await this.waitingFor(whose)) {
      const binding = this.phones.byPhone.get(phoneId);
      if (binding === undefined) continue;
      const { transport } = this.phones.health.of(phoneId);
      const request = messageSummaryRequest(
        {
          ...{ account, contact: binding.contact, domain: realm, callId: phoneId },
          ...{ sequence: ++this.sequence, transport: transport ?? 'tls' },
        },
        { fresh, old },
      );
      const message = writeSip(request);
      this.phones.health.passed(phoneId, 'here', message);
      binding.gateway.say({ kind: 'sip', device: binding.device, message });
    }
  }
}

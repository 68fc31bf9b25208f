import { digestSecret } from '@night-bell/core/sip/digest';
import { registerRequest, type RegisteringPhone } from '@night-bell/core/sip/client';
import { readSip, writeSip } from '@night-bell/core/sip/message';
import type { StoredPhone } from './store.ts';

const expires = 600;

/** A softphone that registers as RFC 3261 says: REGISTER, 401, REGISTER with the digest, 200; and again in time. */
export class StandInPhone {
  readonly device: string;
  registered = false;
  private readonly stored: StoredPhone;
  private readonly send: (device: string, message: string) => void;
  private sequence = 0;
  private refresh: NodeJS.Timeout | null = null;
  private answeredChallenge = false;

  constructor(stored: StoredPhone, send: (device: string, message: string) => void) {
    this.stored = stored;
    this.send = send;
    this.device = stored.account;
  }

  register(): void {
    this.answeredChallenge = false;
    this.transmit(null);
  }

  /** The registrar's answer. */
  hear(text: string): void {
    const message = readSip(text);
    if (message === null || !('status' in message)) return;
    if (message.status === 401 && !this.answeredChallenge) {
      this.answeredChallenge = true;
      this.transmit(message);
    } else if (message.status === 200) {
      this.registered = true;
      this.later((expires * 1000) / 2);
    } else {
      this.registered = false;
      this.later(60_000);
    }
  }

  stop(): void {
    if (this.refresh !== null) clearTimeout(this.refresh);
    this.refresh = null;
  }

  private later(ms: number): void {
    this.stop();
    this.refresh = setTimeout(() => this.register(), ms);
  }

  private transmit(unauthorized: Parameters<typeof registerRequest>[3]): void {
    const { account, domain, secret } = this.stored;
    const phone: RegisteringPhone = {
      account,
      domain,
      contact: `sip:${account}@192.0.2.${20 + ((account.length * 7) % 80)}`,
      secret: digestSecret(account, domain, secret),
      callId: `${account}-register`,
      expires,
    };
    const request = registerRequest(
      phone,
      ++this.sequence,
      `${account}${this.sequence}`,
      unauthorized ?? null,
    );
    if (request !== null) this.send(this.device, writeSip(request));
  }
}

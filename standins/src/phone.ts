import { type Codec, codecs, deviceModel, type Transport } from '@night-bell/core/phones/catalogue';
import type { Misbehaviour, PlayedDevice } from '@night-bell/core/devices/protocol';
import { registerRequest, type RegisteringPhone } from '@night-bell/core/sip/client';
import { digestSecret } from '@night-bell/core/sip/digest';
import { readSip, respond, sipHeader, type SipResponse, writeSip } from '@night-bell/core/sip/message';
import { readMessageSummary } from '@night-bell/core/sip/message-summary';
import { answerOptions } from '@night-bell/core/sip/options';
import type { StoredPhone } from './store.ts';

const usualExpires = 600;
const tooBriefExpires = 20;
const againMs = 60_000;

/** Sends a message of this device, from an address. */
export type Send = (device: string, message: string, source: string) => void;

/**
 * A phone that registers as RFC 3261 says: REGISTER, 401, REGISTER with the digest, 200; and again in time. Asked for
 * it, it goes wrong in one way.
 */
export class StandInPhone {
  readonly device: string;
  registered = false;
  /** What its lamp tells of. */
  newMessages = 0;
  /** What its display showed when it rang last. */
  display: string[] = [];
  private readonly stored: StoredPhone;
  private readonly send: Send;
  private sequence = 0;
  private refresh: NodeJS.Timeout | null = null;
  private answeredChallenge = false;
  private moves = 0;

  constructor(stored: StoredPhone, send: Send) {
    this.stored = stored;
    this.send = send;
    this.device = stored.account;
  }

  /** Goes wrong in this way from now on, or behaves again; registers at once, so that it is seen. */
  misbehave(how: Misbehaviour | null): void {
    this.stored.misbehaves = how;
    if (how === 'silent') this.stop();
    else this.register();
  }

  get played(): PlayedDevice {
    const { device, newMessages, display } = this;
    return { account: device, misbehaves: this.stored.misbehaves ?? null, newMessages, display };
  }

  register(): void {
    if (this.stored.misbehaves === 'silent') return;
    this.answeredChallenge = false;
    this.moves++;
    this.transmit(null);
  }

  /** A message of the registrar. */
  hear(text: string): void {
    const message = readSip(text);
    if (message === null) return;
    if ('method' in message) {
      const summary = readMessageSummary(message);
      if (summary !== null) {
        this.newMessages = summary.fresh;
        return this.say(writeSip(respond(message, 200, 'OK', this.device)));
      }
      if (message.method === 'OPTIONS')
        this.say(writeSip(answerOptions(message, this.offered(), this.device)));
      return;
    }
    if (message.status === 401 && !this.answeredChallenge) {
      this.answeredChallenge = true;
      this.transmit(message);
    } else if (message.status === 200) {
      this.registered = true;
      const expires = Number(/expires=(\d+)/.exec(sipHeader(message, 'Contact') ?? '')?.[1] ?? usualExpires);
      this.later((expires * 1000) / 2);
    } else {
      this.registered = false;
      this.later(againMs);
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

  private say(text: string): void {
    this.send(this.device, text, this.address().source);
  }

  /** Documentation addresses (RFC 5737): the house is 192.0.2.0/24, homes are behind routers in 198.51.100.0/24. */
  private address(): { own: string; source: string } {
    const { misbehaves, home } = this.stored;
    const place = 20 + (numberOf(this.device) % 200) + (misbehaves === 'moving' ? this.moves % 20 : 0);
    if (home === true || misbehaves === 'behindRouter')
      return { own: `192.168.1.${place}`, source: `198.51.100.${place}` };
    return { own: `192.0.2.${place}`, source: `192.0.2.${place}` };
  }

  private offered(): readonly Codec[] {
    const can = deviceModel(this.stored.model ?? 'softphone')!.codecs;
    if (this.stored.misbehaves !== 'oddCodecs') return can;
    // Whatever is not allowed for it; when anything is, something nobody would guess.
    const allowed = this.stored.codecs ?? [];
    return codecs.filter((codec) => !allowed.includes(codec)).slice(0, 2);
  }

  private transmit(unauthorized: SipResponse | null): void {
    const { domain, secret, misbehaves, transport = 'tls' } = this.stored;
    const account = misbehaves === 'unknownAccount' ? `${this.device}x` : this.device;
    const phone: RegisteringPhone = {
      account,
      domain: misbehaves === 'wrongServer' ? 'old.example' : domain,
      transport: misbehaves === 'wrongTransport' ? otherThan(transport) : transport,
      contact: `sip:${account}@${this.address().own}`,
      secret: digestSecret(account, domain, misbehaves === 'wrongSecret' ? `${secret}x` : secret),
      callId: `${account}-register`,
      expires: misbehaves === 'tooBrief' ? tooBriefExpires : usualExpires,
    };
    const request = registerRequest(phone, ++this.sequence, `${account}${this.sequence}`, unauthorized);
    if (request !== null) this.say(writeSip(request));
  }
}

function otherThan(transport: Transport): Transport {
  return transport === 'udp' ? 'tcp' : 'udp';
}

function numberOf(text: string): number {
  let sum = 0;
  for (const character of text) sum = (sum * 31 + character.charCodeAt(0)) % 1_000_003;
  return sum;
}

import type { Transport } from '@night-bell/core/phones/catalogue';
import { registerRequest } from '@night-bell/core/sip/client';
import { digestSecret, readChallenge } from '@night-bell/core/sip/digest';
import { readSip, type SipResponse, sipHeader, writeSip } from '@night-bell/core/sip/message';
import { type TrunkFault, trunkFaultOf } from '@night-bell/core/sip/trunk-faults';
import { HealthBook, type PassedMessage } from './phone-health.ts';

/** What it takes to register at a provider. */
export interface TrunkAccess {
  id: string;
  host: string;
  account: string;
  transport: Transport;
  registers: boolean;
  secret: string | null;
  certificate: string | null;
}

export interface TrunkState {
  /** `open`: needs no registration. */
  registration: 'open' | 'registered' | 'unregistered' | 'refused';
  since: number;
  fault: TrunkFault | null;
  detail: string;
}

interface Line extends TrunkState {
  access: TrunkAccess;
  /** Of what it registered with; another makes it register anew. */
  key: string;
  sequence: number;
  answered: boolean;
  againAt: number;
  sentAt: number | null;
}

const expiresSeconds = 600;
const answerWithinMs = 5_000;
const retryMs = 30_000;

/** Says a message of ours to whoever reaches this provider; false when nobody does. */
type Say = (access: TrunkAccess, message: string) => boolean;

/**
 * Our registrations at providers, on the server that hosts: REGISTER, 401, REGISTER with the digest, 200, and again in
 * time; a refusal is read into words and tried again later.
 */
export class TrunkLines {
  readonly health = new HealthBook();
  private readonly lines = new Map<string, Line>();
  private readonly trunks: () => Promise<TrunkAccess[]>;
  private readonly say: Say;

  constructor(trunks: () => Promise<TrunkAccess[]>, say: Say) {
    this.trunks = trunks;
    this.say = say;
  }

  state(id: string): TrunkState | null {
    return this.lines.get(id) ?? null;
  }

  messages(id: string): PassedMessage[] {
    return this.health.of(id).messages;
  }

  /** Whether calls may go out over it, as far as registration goes. */
  isOpen(id: string): boolean {
    const line = this.lines.get(id);
    return line === undefined || !line.access.registers || line.registration === 'registered';
  }

  /** Looks at all trunks: new ones, changed ones, those due again, those that were not answered. */
  async tick(now: number): Promise<void> {
    const trunks = await this.trunks();
    const known = new Set(trunks.map((trunk) => trunk.id));
    for (const id of this.lines.keys()) if (!known.has(id)) this.lines.delete(id);
    for (const access of trunks) {
      const key = JSON.stringify(access);
      let line = this.lines.get(access.id);
      if (line === undefined || line.key !== key) {
        line = this.fresh(access, key, now);
        this.lines.set(access.id, line);
      }
      if (!access.registers) continue;
      if (line.sentAt !== null && now - line.sentAt > answerWithinMs) this.refuse(line, 'no answer', '', now);
      if (line.sentAt === null && now >= line.againAt) this.register(line, now);
    }
  }

  /** Now, not when it is due. */
  async again(id: string, now: number): Promise<void> {
    const line = this.lines.get(id);
    if (line !== undefined) {
      line.againAt = 0;
      line.sentAt = null;
    }
    await this.tick(now);
  }

  /** A provider's message for one of our accounts there. */
  hear(host: string, account: string, text: string, now: number): void {
    const message = readSip(text);
    const line = [...this.lines.values()].find(
      ({ access }) => access.host === host && access.account === account,
    );
    if (message === null || !('status' in message) || line === undefined) return;
    this.health.passed(line.access.id, 'there', text);
    line.sentAt = null;
    if (message.status === 401 && !line.answered) {
      line.answered = true;
      return this.transmit(line, message, now);
    }
    if (message.status !== 200) {
      const { fault, detail } = trunkFaultOf(message);
      return this.refuse(line, fault, detail, now);
    }
    if (line.registration !== 'registered') line.since = now;
    Object.assign(line, { registration: 'registered', fault: null, detail: '' });
    const granted = Number(/expires=(\d+)/i.exec(sipHeader(message, 'Contact') ?? '')?.[1] ?? expiresSeconds);
    line.againAt = now + (granted * 1000) / 2;
  }

  private fresh(access: TrunkAccess, key: string, now: number): Line {
    return {
      access,
      key,
      registration: access.registers ? 'unregistered' : 'open',
      since: now,
      fault: null,
      detail: '',
      sequence: this.lines.get(access.id)?.sequence ?? 0,
      answered: false,
      againAt: 0,
      sentAt: null,
    };
  }

  private register(line: Line, now: number): void {
    line.answered = false;
    if (line.access.secret === null) return this.refuse(line, 'no secret', '', now);
    this.transmit(line, null, now);
  }

  private transmit(line: Line, challenge: SipResponse | null, now: number): void {
    const { access } = line;
    const realm =
      challenge === null
        ? access.host
        : (readChallenge(sipHeader(challenge, 'WWW-Authenticate') ?? '')?.realm ?? access.host);
    const request = registerRequest(
      {
        account: access.account,
        domain: access.host,
        transport: access.transport,
        contact: `sip:${access.account}@192.0.2.10`,
        secret: digestSecret(access.account, realm, access.secret ?? ''),
        callId: `${access.id}-register`,
        expires: expiresSeconds,
      },
      ++line.sequence,
      `${access.id.slice(-8)}${line.sequence}`,
      challenge,
    );
    if (request === null) return this.refuse(line, 'refused', 'a challenge that cannot be read', now);
    const text = writeSip(request);
    line.sentAt = now;
    if (!this.say(access, text)) return this.refuse(line, 'not reached', '', now);
    this.health.passed(access.id, 'here', text);
  }

  private refuse(line: Line, fault: TrunkFault, detail: string, now: number): void {
    const registration =
      fault === 'no answer' || fault === 'not reached' || fault === 'provider overloaded'
        ? 'unregistered'
        : 'refused';
    if (line.registration !== registration) line.since = now;
    Object.assign(line, { registration, fault, detail, sentAt: null, againAt: now + retryMs });
  }
}

import { X509Certificate } from 'node:crypto';
import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import { isEmergency } from '@night-bell/core/dialling/emergency';
import { acceptKey } from '@night-bell/core/exchange/offers/outcome';
import type { LegFailure } from '@night-bell/core/story/facts';
import { type Profile, reactContact, reactOutside, talk } from '@night-bell/core/rehearse/behaviour';
import type { Random } from '@night-bell/core/random/random';
import type { Transport } from '@night-bell/core/phones/catalogue';
import { digestSecret } from '@night-bell/core/sip/digest';
import { readSip, respond, sipHeader, type SipResponse, writeSip } from '@night-bell/core/sip/message';
import { answerRegister } from '@night-bell/core/sip/registrar';

/** How a provider wants things. */
interface Manner {
  transport: Transport;
  /** It knows its customers by a certificate, and takes calls only from who is registered. */
  wantsCertificate: boolean;
  wantsRegistration: boolean;
  /** Digits it takes, and whether a call without a caller ID is. */
  takes: RegExp;
  wantsCallerId: boolean;
  /** Share of what it is asked that it answers with 503. */
  fails: number;
  /** Of every account there: what a real one would have sent by letter. */
  secret: string;
}

/** Full numbers (E.164), with or without the plus; ten and eleven digits of the North American plan too. */
const anyFullNumber = /^(\+?[1-9]\d{6,14}|1?[2-9]\d{9})$/;

/** Providers by the host a trunk names: a plain one, a strict one, a flaky one. */
const manners: Record<string, Manner> = {
  'provider.example': {
    transport: 'udp',
    wantsCertificate: false,
    wantsRegistration: false,
    takes: anyFullNumber,
    wantsCallerId: false,
    fails: 0,
    secret: 'buoy ninepin 4471 drift',
  },
  'strict.provider.example': {
    transport: 'tls',
    wantsCertificate: true,
    wantsRegistration: true,
    takes: /^\+[1-9]\d{6,14}$/,
    wantsCallerId: true,
    fails: 0,
    secret: 'kelp lantern 1907 fathom',
  },
  'flaky.provider.example': {
    transport: 'tcp',
    wantsCertificate: false,
    wantsRegistration: true,
    takes: anyFullNumber,
    wantsCallerId: false,
    fails: 0.35,
    secret: 'oar sextant 2288 harbor',
  },
};

export const providerHosts = Object.keys(manners);
export const providerHost = providerHosts[0]!;

/** Why this provider does not carry something to these digits; null when it does. */
export function providerTakes(trunkHost: string, digits: string, random: Random): string | null {
  const manner = manners[trunkHost];
  if (manner === undefined) return 'There is no such provider.';
  if (!manner.takes.test(digits)) return 'The provider does not take these digits.';
  return random() < manner.fails ? 'The provider is overloaded.' : null;
}

type Dial = ToGateway & { kind: 'dial' };

/** Whether this is a certificate that is good now and names the account. */
function isMadeOutTo(certificate: string | null, account: string): boolean {
  if (certificate === null) return false;
  try {
    const read = new X509Certificate(certificate);
    const good = Date.parse(read.validFrom) <= Date.now() && Date.now() < Date.parse(read.validTo);
    return good && read.subject.includes(account);
  } catch {
    return false;
  }
}

/**
 * Providers of lines to the public network: dial contacts, agents' outside numbers and whomever our people call, and play
 * who is there. What one does not take it refuses, as providers do.
 */
export class Provider {
  private readonly random: Random;
  private readonly profile: Profile;
  private readonly say: (message: FromGateway) => void;
  /** Legs that are alive here, with what each does next. */
  private readonly legs = new Map<string, NodeJS.Timeout | null>();
  private readonly contacts = new Set<string>();
  /** `host account` of who is registered here. */
  private readonly registered = new Set<string>();
  private nonces = 0;
  /** Whether somebody at an outside number will press the key. */
  private readonly pressing = new Map<string, number | null>();

  constructor(random: Random, profile: Profile, say: (message: FromGateway) => void) {
    this.random = random;
    this.profile = profile;
    this.say = say;
  }

  alive(): string[] {
    return [...this.legs.keys()];
  }

  stop(): void {
    for (const timer of this.legs.values()) if (timer !== null) clearTimeout(timer);
  }

  dial({ leg, digits, callerId, party, trunkHost, account }: Dial): void {
    const manner = manners[trunkHost]!;
    const fail = (cause: LegFailure) => this.say({ kind: 'failed', leg, cause });
    if (isEmergency(digits)) return this.ringOutside(leg);
    if (manner.wantsRegistration && !this.registered.has(`${trunkHost} ${account}`)) return fail('refused');
    if (!manner.takes.test(digits)) return fail('noRoute');
    if (callerId === '' && (manner.wantsCallerId || party === 'contact')) return fail('refused');
    if (this.random() < manner.fails) return fail('congestion');
    if (party === 'contact') this.ringContact(leg);
    else if (party === 'agent') this.ringAgent(leg);
    else this.ringOutside(leg);
  }

  /** A message of ours to a provider: answers a REGISTER as RFC 3261 says, in this provider's manner. */
  hear({
    trunkHost,
    account,
    transport,
    certificate,
    message: text,
  }: ToGateway & { kind: 'trunkSip' }): void {
    const manner = manners[trunkHost];
    const request = readSip(text);
    if (manner === undefined || request === null || !('method' in request)) return;
    const reply = (response: SipResponse) =>
      this.say({ kind: 'trunkSip', trunkHost, account, message: writeSip(response) });
    const warn = (words: string) =>
      reply(respond(request, 403, 'Forbidden', 'p', [['Warning', `399 ${trunkHost} "${words}"`]]));
    if (transport !== manner.transport) return warn(`Use ${manner.transport.toUpperCase()}`);
    if (manner.wantsCertificate && !isMadeOutTo(certificate, account)) return warn('Certificate wanted');
    const challenged = sipHeader(request, 'Authorization') !== undefined;
    if (challenged && this.random() < manner.fails)
      return reply(respond(request, 503, 'Service Unavailable', 'p'));
    const { response, outcome } = answerRegister(request, {
      realm: trunkHost,
      accountOf: () => ({
        secret: digestSecret(account, trunkHost, manner.secret),
        transport: manner.transport,
        behindRouter: true,
      }),
      source: null,
      freshNonce: () => `${trunkHost}-${++this.nonces}`,
      nonceState: () => 'fresh',
      tag: 'p',
    });
    if (outcome.kind === 'registered') this.registered.add(`${trunkHost} ${account}`);
    else if (outcome.kind === 'refused') this.registered.delete(`${trunkHost} ${account}`);
    reply(response);
  }

  /** A call is put through on a line that is open: it ends with the call, the line does not. */
  takeLine(leg: string, line: string): void {
    if (this.legs.has(line)) this.legs.set(leg, null);
  }

  /** Both sides hear each other; a contact's side draws how long and who ends it. False when it is no leg of here. */
  connected(leg: string): boolean {
    if (!this.legs.has(leg)) return false;
    if (this.contacts.has(leg)) {
      const { ms } = talk(this.random, this.profile);
      this.plan(leg, ms, () => this.hangUp(leg));
    }
    return true;
  }

  hears(leg: string, prompt: string): void {
    if (!this.legs.has(leg) || prompt !== 'acceptCall') return;
    const pressesMs = this.pressing.get(leg) ?? null;
    this.pressing.delete(leg);
    if (pressesMs !== null) this.plan(leg, pressesMs, () => this.say({ kind: 'key', leg, key: acceptKey }));
  }

  /** False when it is no leg of here. */
  release(leg: string): boolean {
    const timer = this.legs.get(leg);
    if (timer === undefined) return false;
    if (timer !== null) clearTimeout(timer);
    this.legs.delete(leg);
    this.contacts.delete(leg);
    this.pressing.delete(leg);
    return true;
  }

  /** Somebody at a public number lifts after a while, and hangs up in the end. */
  private ringOutside(leg: string): void {
    this.contacts.add(leg);
    this.plan(leg, reactOutside(this.random, this.profile).liftsMs, () => {
      this.legs.set(leg, null);
      this.say({ kind: 'answered', leg });
    });
  }

  private ringAgent(leg: string): void {
    const { liftsMs, pressesMs } = reactOutside(this.random, this.profile);
    this.pressing.set(leg, pressesMs);
    this.plan(leg, liftsMs, () => this.say({ kind: 'answered', leg }));
  }

  private ringContact(leg: string): void {
    this.contacts.add(leg);
    const reaction = reactContact(this.random, this.profile);
    if (reaction.does === 'ringsOut') {
      this.legs.set(leg, null);
      return;
    }
    this.plan(leg, reaction.afterMs, () => {
      if (reaction.does === 'fails') {
        this.release(leg);
        return this.say({ kind: 'failed', leg, cause: reaction.cause });
      }
      this.say({ kind: 'answered', leg });
      this.plan(leg, reaction.greetingMs, () => {
        if (reaction.then === 'hangsUp') return this.hangUp(leg);
        this.say({ kind: 'greeted', leg, by: reaction.by });
        if (reaction.then === 'optsOut') this.say({ kind: 'key', leg, key: '9' });
      });
    });
  }

  private hangUp(leg: string): void {
    this.release(leg);
    this.say({ kind: 'hungUp', leg });
  }

  private plan(leg: string, ms: number, work: () => void): void {
    const before = this.legs.get(leg);
    if (before != null) clearTimeout(before);
    this.legs.set(leg, setTimeout(work, ms));
  }
}

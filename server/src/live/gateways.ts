import type { WebSocket } from 'ws';
import type { Logger } from 'pino';
import { v7 as uuid } from 'uuid';
import type { FromGateway } from '@night-bell/core/devices/protocol';
import { readFromGateway } from '@night-bell/core/devices/read';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import { answerByText } from './answer-by-text.ts';
import { giveUpOnAbsent } from './absent.ts';
import { type FileBooks, IncomingFiles } from './incoming-files.ts';
import { takeInTurn } from './gateway-turns.ts';
import type { Host } from './host.ts';
import type { Devices } from './live.ts';
import { type Gateway, gatewayOn, type Recognise, tryAgainLater } from './gateway.ts';
import { Lamps, type WaitingFor } from './lamps.ts';
import { legMessages } from './leg-messages.ts';
import { PhoneBindings } from './phone-bindings.ts';
import { PhoneRings } from './phone-rings.ts';
import { type TextBook, Texts, type TextWays } from './texts.ts';
import { Trials } from './trials.ts';
import { type TrunkAccess, TrunkLines } from './trunk-lines.ts';
import type { Registrar } from './registrar.ts';
import { StandInDoor } from './stand-in-door.ts';

/** How long a lost gateway, or all of them after a restart of the host, may take to come back. */
const graceMs = 8_000;
const sweepMs = 5_000;
const mostGateways = 200;
/** The name by which the stand-ins say hello. */
const standIns = 'stand-ins';

/** What is asked and kept beside the exchange, for what gateways bring. */
export interface GatewayBooks extends FileBooks {
  trunks: () => Promise<TrunkAccess[]>;
  callable: () => Promise<{ to: string; share: number }[]>;
  recognise: Recognise;
  voicemail: FileBooks['voicemail'] & { waiting: WaitingFor };
  texts: TextBook;
}

/**
 * The exchange's side of the device protocol: gateways of phones and lines. Knows which device speaks for
 * which phone, carries effects to them, and turns what they report into events.
 */
export class Gateways implements Devices {
  private readonly registrar: Registrar;
  private readonly logger: Logger;
  private host: Host | null = null;
  private hostSince = 0;
  private readonly gateways = new Set<Gateway>();
  /** Which device, of which gateway, speaks for which phone. */
  readonly phones: PhoneBindings;
  /** Which gateway carries a leg, so that it hears what happens to it. */
  private readonly legs = new Map<string, Gateway>();
  private readonly rings: PhoneRings;
  private readonly timers = new Set<NodeJS.Timeout>();
  private readonly sweep: NodeJS.Timeout;
  private readonly recognise: Recognise;
  readonly standIns: StandInDoor;
  /** Our registrations at providers. */
  readonly lines: TrunkLines;
  /** Single calls that try a trunk. */
  readonly trials: Trials;
  readonly texts: Texts;
  private readonly files: IncomingFiles;
  readonly lamps: Lamps;

  constructor(registrar: Registrar, books: GatewayBooks, logger: Logger) {
    const { trunks, callable, recognise, keepFax, voicemail, talks, keepGreeting, texts } = books;
    this.registrar = registrar;
    this.phones = new PhoneBindings(
      registrar,
      () => this.host,
      (phoneId, fresh) => {
        this.rings.phoneIsBack(phoneId);
        if (fresh) this.lamps.phoneIsThere(phoneId);
      },
    );
    this.rings = new PhoneRings({
      phones: this.phones,
      host: () => this.host,
      mayStillCome: () => Date.now() - this.hostSince < graceMs,
      carriedBy: (leg, gateway) => void this.legs.set(leg, gateway),
    });
    this.lamps = new Lamps(this.phones, voicemail.waiting, logger);
    this.files = new IncomingFiles(() => this.host, { keepFax, voicemail, talks, keepGreeting });
    this.standIns = new StandInDoor(callable);
    this.lines = new TrunkLines(trunks, (access, message) => {
      const { host: trunkHost, account, transport, certificate } = access;
      const gateway = this.gatewayOf(trunkHost);
      gateway?.say({ kind: 'trunkSip', trunkHost, account, transport, certificate, message });
      return gateway !== undefined;
    });
    this.trials = new Trials((trunkHost) => this.gatewayOf(trunkHost)?.say ?? null);
    this.texts = new Texts(
      texts,
      {
        state: () => this.host?.exchange.view() ?? null,
        sayOver: (trunkId) => this.sayOver(trunkId),
        arrived: (text) => answerByText(this.host, text),
      },
      logger,
    );
    this.recognise = recognise;
    this.logger = logger;
    this.sweep = setInterval(() => {
      this.phones.expire();
      this.phones.tellUnheard();
      void this.lookAtTrunks();
      void this.texts.sendWaiting();
    }, sweepMs);
  }

  close(): void {
    clearInterval(this.sweep);
    this.lamps.close();
    this.standIns.stop();
    for (const timer of this.timers) clearTimeout(timer);
    for (const { socket } of this.gateways) socket.close(1001, 'going away');
  }

  hosting(host: Host): void {
    this.host = host;
    this.hostSince = Date.now();
    this.later(graceMs, () => this.giveUpOnAbsent());
  }

  notHosting(): void {
    this.host = null;
    this.phones.byPhone.clear();
    this.legs.clear();
    this.rings.clear();
    // They reconnect, to the server that hosts now.
    for (const { socket } of this.gateways) socket.close(4503, 'not hosting');
  }

  connect(socket: WebSocket): void {
    if (this.host === null) {
      socket.close(4503, 'not hosting');
      return;
    }
    if (this.gateways.size >= mostGateways) return socket.close(tryAgainLater, 'too many gateways');
    const gateway = gatewayOn(socket);
    this.gateways.add(gateway);
    takeInTurn(socket, {
      read: (text) => this.read(gateway, text),
      take: (message) => this.take(gateway, message),
      fault: (error) => this.logger.warn({ error: String(error) }, 'a gateway sent what cannot be taken'),
    });
    socket.on('close', () => this.lost(gateway));
    socket.on('error', () => socket.terminate());
  }

  /** Whether somebody reaches this provider. */
  reaches(trunkHost: string): boolean {
    return this.gatewayOf(trunkHost) !== undefined;
  }

  private sayOver(trunkId: string): ReturnType<TextWays['sayOver']> {
    const trunkHost = this.host?.exchange.view().trunks.get(trunkId)?.item.host;
    const gateway = trunkHost === undefined ? undefined : this.gatewayOf(trunkHost);
    if (trunkHost === undefined || gateway === undefined || !this.lines.isOpen(trunkId)) return null;
    return { trunkHost, say: gateway.say };
  }

  private gatewayOf(trunkHost: string): Gateway | undefined {
    return [...this.gateways].find((gateway) => gateway.trunkHosts.includes(trunkHost));
  }

  carryOut(name: string, effect: Effect): void {
    if (effect.kind === 'takeLine') {
      const gateway = this.legs.get(effect.line);
      if (gateway !== undefined) this.legs.set(effect.leg, gateway);
    }
    for (const { leg, message } of legMessages(name, effect)) this.legs.get(leg)?.say(message);
    switch (effect.kind) {
      case 'ring':
        return this.rings.ring(name, effect);
      case 'dial':
        return this.dial(name, effect);
      case 'stopRinging':
        this.rings.stop(effect.leg);
        this.legs.delete(effect.leg);
        return;
      case 'release':
        this.legs.delete(effect.leg);
        return;
      case 'callEnded':
        this.files.drop(effect.facts.callId);
        for (const leg of this.legs.keys())
          if (leg.startsWith(`${effect.facts.callId}.`)) this.legs.delete(leg);
        return;
      case 'emergency': {
        const who = this.host?.exchange.view().agents.get(effect.personId)?.person.name;
        this.standIns.tell({
          kind: 'frontDesk',
          text: `${who ?? 'Somebody'} dialled ${effect.digits}; help is needed at ${effect.address ?? 'an address that nobody gave'}`,
        });
        return;
      }
    }
  }

  private dial(name: string, effect: Effect & { kind: 'dial' }): void {
    const host = this.host;
    const { leg, callId, digits, callerId, ringSeconds } = effect;
    const trunk = host?.exchange.view().trunks.get(effect.trunkId)?.item;
    const gateway = trunk === undefined ? undefined : this.gatewayOf(trunk.host);
    if (trunk === undefined || gateway === undefined || !this.lines.isOpen(trunk.id)) {
      host?.submit({ kind: 'legFailed', leg, cause: 'congestion' });
      return;
    }
    this.legs.set(leg, gateway);
    gateway.say({
      kind: 'dial',
      effect: name,
      leg,
      callId,
      trunkHost: trunk.host,
      account: trunk.account,
      digits,
      callerId,
      ringSeconds,
      party: effect.party,
    });
  }

  /** What of a message can be taken; the gateway is told what cannot, and what was cleaned. */
  private read(gateway: Gateway, text: string): FromGateway | null {
    const read = readFromGateway(text);
    if ('fault' in read) {
      gateway.say({ kind: 'remark', of: read.of, taken: false, why: read.fault });
      return null;
    }
    for (const why of read.cleaned) gateway.say({ kind: 'remark', of: read.message.kind, taken: true, why });
    return read.message;
  }

  private async take(gateway: Gateway, message: FromGateway): Promise<void> {
    const host = this.host;
    if (host === null) return;
    switch (message.kind) {
      case 'hello':
        return this.greet(gateway, message);
      case 'sip':
        return this.phones.hear(gateway, message);
      case 'answered':
        if (this.trials.answered(message.leg)) return;
        host.submit({ kind: 'legAnswered', leg: message.leg });
        return;
      case 'failed':
        if (this.trials.failed(message.leg, message.cause)) return;
        host.submit({ kind: 'legFailed', leg: message.leg, cause: message.cause });
        return;
      case 'hungUp':
        if (this.trials.failed(message.leg, null)) return;
        host.submit({ kind: 'legEnded', leg: message.leg });
        return;
      case 'key':
        host.submit({ kind: 'keyPressed', leg: message.leg, key: message.key });
        return;
      case 'greeted':
        host.submit({ kind: 'greetingEnded', leg: message.leg, by: message.by });
        return;
      case 'call':
        return this.arrive(gateway, message);
      case 'fax':
      case 'faxPart':
      case 'recording':
      case 'recordingPart':
      case 'talk':
      case 'talkPart':
      case 'greeting':
      case 'greetingPart':
        return this.remark(gateway, message.kind, await this.files.hear(message));
      case 'spoken':
        host.submit({ kind: 'spoken', leg: message.leg, words: message.words, by: 'voice' });
        return;
      case 'text':
      case 'textSent':
      case 'textFailed':
        return this.texts.hear(message, gateway.say);
      case 'callerHungUp':
        host.submit({ kind: 'callerHungUp', callId: message.callId });
        return;
      case 'trunkSip':
        this.lines.hear(message.trunkHost, message.account, message.message, Date.now());
        return;
      case 'trafficState':
        this.standIns.trafficIs(message);
        return;
      case 'enrolled':
        return;
    }
  }

  /** Says what of a message could not be taken. */
  private remark(gateway: Gateway, of: string, why: string | null): void {
    if (why !== null) gateway.say({ kind: 'remark', of, taken: false, why });
  }

  private async arrive(gateway: Gateway, message: FromGateway & { kind: 'call' }): Promise<void> {
    const callId = uuid();
    const { to, from, callerName, ref, trunkHost, device } = message;
    const fromPhoneId = device === undefined ? undefined : (await this.registrar.phone(device))?.id;
    this.legs.set(`${callId}.1`, gateway);
    gateway.say({ kind: 'callAccepted', ref, callId });
    const record = await this.recognise(from).catch(() => null);
    const trunks = [...(this.host?.exchange.view().trunks.values() ?? [])];
    const trunkId = trunks.find((trunk) => trunk.item.host === trunkHost)?.item.id;
    const host = this.host;
    host?.submit({
      kind: 'callArrived',
      callId,
      to,
      from,
      ...(callerName === undefined ? {} : { callerName }),
      ...(record === null ? {} : { record }),
      ...(trunkId === undefined ? {} : { trunkId }),
      ...(fromPhoneId === undefined ? {} : { fromPhoneId }),
      standIn: gateway.name === standIns,
    });
    // Whoever had this call made is told once it cannot be lost any more.
    void host?.committed().then(() => {
      if (host === this.host) this.standIns.arrived(ref, callId);
    });
  }

  /** Has a phone register again now; false when nobody carries it. */
  askAgain(phoneId: string, account: string): boolean {
    const gateway = this.phones.byPhone.get(phoneId)?.gateway ?? [...this.gateways][0];
    gateway?.say({ kind: 'askAgain', device: account });
    return gateway !== undefined;
  }

  /** Both sides say what is alive; what only one of them knows ends. */
  private greet(gateway: Gateway, hello: FromGateway & { kind: 'hello' }): void {
    const host = this.host!;
    gateway.name = hello.gateway;
    gateway.trunkHosts = hello.trunkHosts ?? [];
    const state = host.exchange.view();
    const known = new Set([...state.calls.values()].flatMap((call) => call.legs.map((leg) => leg.id)));
    for (const leg of [...hello.legs, ...hello.calls.map((callId) => `${callId}.1`)]) {
      if (known.has(leg)) this.legs.set(leg, gateway);
      else
        gateway.say({ kind: 'released', effect: 'hello', callId: leg.slice(0, leg.lastIndexOf('.')), leg });
    }
    if (gateway.name === standIns) this.standIns.open(gateway.say);
    void this.lookAtTrunks();
  }

  /** New, changed and lapsed registrations of trunks. */
  async lookAtTrunks(): Promise<void> {
    if (this.host === null) return;
    await this.lines
      .tick(Date.now())
      .catch((error: unknown) => this.logger.warn({ error: String(error) }, 'trunks not looked at'));
  }

  private lost(gateway: Gateway): void {
    this.gateways.delete(gateway);
    this.standIns.closed(gateway.say);
    this.later(graceMs, () => this.giveUpOnAbsent());
  }

  private giveUpOnAbsent(): void {
    if (this.host !== null) giveUpOnAbsent(this.host, this.phones, this.legs, this.gateways);
  }

  private later(ms: number, work: () => void): void {
    const timer = setTimeout(() => {
      this.timers.delete(timer);
      work();
    }, ms);
    this.timers.add(timer);
  }
}

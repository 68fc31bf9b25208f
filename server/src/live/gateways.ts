import type { WebSocket } from 'ws';
import type { Logger } from 'pino';
import { v7 as uuid } from 'uuid';
import { registersBySip } from '@night-bell/core/phones/catalogue';
import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import type { Effect } from '@night-bell/core/exchange/effects';
import type { Leg } from '@night-bell/core/exchange/state';
import { transportOf } from '@night-bell/core/sip/addresses';
import type { RegistrationFault } from '@night-bell/core/sip/faults';
import { readSip, type SipResponse, writeSip } from '@night-bell/core/sip/message';
import { codecsInCommon, codecsOf, optionsRequest } from '@night-bell/core/sip/options';
import type { Host } from './host.ts';
import type { Devices } from './live.ts';
import { type Binding, faxFile, type Gateway, gatewayOn, type KeepFax, type Recognise } from './gateway.ts';
import { HealthBook } from './phone-health.ts';
import { Trials } from './trials.ts';
import { type TrunkAccess, TrunkLines } from './trunk-lines.ts';
import { realm, type Registrar } from './registrar.ts';
import { StandInDoor } from './stand-in-door.ts';

/** How long a lost gateway, or all of them after a restart of the host, may take to come back. */
const graceMs = 8_000;
const sweepMs = 5_000;
/** The name by which the stand-ins say hello. */
const standIns = 'stand-ins';

/**
 * The doors of the exchange: gateways of phones and lines, over the device protocol. Knows which device speaks for
 * which phone, carries effects to them, and turns what they report into events.
 */
export class Gateways implements Devices {
  private readonly registrar: Registrar;
  private readonly logger: Logger;
  private host: Host | null = null;
  private hostSince = 0;
  private readonly gateways = new Set<Gateway>();
  private readonly bindings = new Map<string, Binding>();
  /** Which gateway carries a leg, so that it hears what happens to it. */
  private readonly legs = new Map<string, Gateway>();
  /** Rings for phones that have not come back yet after a restart. */
  private readonly held = new Map<string, { name: string; effect: Effect & { kind: 'ring' } }>();
  private readonly timers = new Set<NodeJS.Timeout>();
  private readonly sweep: NodeJS.Timeout;
  private readonly recognise: Recognise;
  private readonly keepFax: KeepFax;
  readonly standIns: StandInDoor;
  /** Our registrations at providers. */
  readonly lines: TrunkLines;
  /** Single calls that try a trunk. */
  readonly trials: Trials;
  /** How each phone talks with us, by its id. */
  readonly health = new HealthBook();
  private asked = 0;

  constructor(
    registrar: Registrar,
    trunks: () => Promise<TrunkAccess[]>,
    callable: () => Promise<{ to: string; share: number }[]>,
    recognise: Recognise,
    keepFax: KeepFax,
    logger: Logger,
  ) {
    this.registrar = registrar;
    this.standIns = new StandInDoor(callable);
    this.lines = new TrunkLines(trunks, (access, message) => {
      const { host: trunkHost, account, transport, certificate } = access;
      const gateway = this.gatewayOf(trunkHost);
      gateway?.say({ kind: 'trunkSip', trunkHost, account, transport, certificate, message });
      return gateway !== undefined;
    });
    this.trials = new Trials((trunkHost) => this.gatewayOf(trunkHost)?.say ?? null);
    this.recognise = recognise;
    this.keepFax = keepFax;
    this.logger = logger;
    this.sweep = setInterval(() => {
      this.expire();
      this.tellUnheard();
      void this.lookAtTrunks();
    }, sweepMs);
  }

  close(): void {
    clearInterval(this.sweep);
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
    this.bindings.clear();
    this.legs.clear();
    this.held.clear();
    // They reconnect, to the server that hosts now.
    for (const { socket } of this.gateways) socket.close(4503, 'not hosting');
  }

  connect(socket: WebSocket): void {
    if (this.host === null) {
      socket.close(4503, 'not hosting');
      return;
    }
    const gateway = gatewayOn(socket);
    this.gateways.add(gateway);
    // One message after the other: a REGISTER waits for the database, and order matters.
    let turn = Promise.resolve();
    socket.on('message', (data: Buffer) => {
      turn = turn
        .then(() => this.take(gateway, JSON.parse(data.toString('utf8')) as FromGateway))
        .catch((error: unknown) =>
          this.logger.warn({ error: String(error) }, 'a gateway sent what cannot be taken'),
        );
    });
    socket.on('close', () => this.lost(gateway));
    socket.on('error', () => socket.terminate());
  }

  /** Whether somebody reaches this provider. */
  reaches(trunkHost: string): boolean {
    return this.gatewayOf(trunkHost) !== undefined;
  }

  private gatewayOf(trunkHost: string): Gateway | undefined {
    return [...this.gateways].find((gateway) => gateway.trunkHosts.includes(trunkHost));
  }

  carryOut(name: string, effect: Effect): void {
    switch (effect.kind) {
      case 'ring':
        return this.ring(name, effect);
      case 'dial':
        return this.dial(name, effect);
      case 'takeLine': {
        const { leg, line } = effect;
        const gateway = this.legs.get(line);
        if (gateway !== undefined) this.legs.set(leg, gateway);
        return this.toLeg(leg, { kind: 'takeLine', effect: name, leg, line });
      }
      case 'stopRinging':
        for (const [phoneId, held] of this.held)
          if (held.effect.leg === effect.leg) this.held.delete(phoneId);
        this.toLeg(effect.leg, { kind: 'stopRinging', effect: name, leg: effect.leg });
        this.legs.delete(effect.leg);
        return;
      case 'connect':
        for (const leg of effect.legs)
          this.toLeg(leg, { kind: 'connected', effect: name, callId: effect.callId, leg });
        return;
      case 'release':
        this.toLeg(effect.leg, { kind: 'released', effect: name, callId: effect.callId, leg: effect.leg });
        this.legs.delete(effect.leg);
        return;
      case 'play': {
        const { callId, leg, prompt } = effect;
        return this.toLeg(leg, { kind: 'play', effect: name, callId, leg, prompt });
      }
      case 'record': {
        const { callId, greetingSeconds, maxMessageSeconds } = effect;
        const message = { kind: 'record' as const, effect: name, callId, greetingSeconds, maxMessageSeconds };
        return this.toLeg(`${callId}.1`, message);
      }
      case 'joinRoom': {
        const { callId, leg, roomId, tone } = effect;
        return this.toLeg(leg, { kind: 'joinRoom', effect: name, callId, leg, roomId, tone });
      }
      case 'receiveFax': {
        const { callId, leg } = effect;
        return this.toLeg(leg, { kind: 'receiveFax', effect: name, callId, leg });
      }
      case 'hold':
      case 'resume':
        return this.toLeg(effect.leg, { kind: effect.kind, effect: name, leg: effect.leg });
      case 'callEnded':
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
      case 'agentChanged':
      case 'campaignChanged':
      case 'wantContacts':
      case 'returnContacts':
      case 'optOut':
        return;
    }
  }

  private ring(name: string, effect: Effect & { kind: 'ring' }): void {
    const host = this.host;
    const { leg, callId, from, ringSeconds, answerBySelf } = effect;
    // A person's own page sees by itself that it rings; lifting by itself is done for it.
    if (host?.exchange.view().phones.get(effect.phoneId)?.item.kind === 'browser') {
      if (answerBySelf) host.submit({ kind: 'legAnswered', leg });
      return;
    }
    const binding = this.bindings.get(effect.phoneId);
    if (binding !== undefined) {
      const { gateway, device } = binding;
      this.legs.set(leg, gateway);
      gateway.say({ kind: 'ring', effect: name, device, leg, callId, from, ringSeconds, answerBySelf });
    } else if (Date.now() - this.hostSince < graceMs) this.held.set(effect.phoneId, { name, effect });
    else host?.submit({ kind: 'legFailed', leg, cause: 'unreachable' });
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

  private toLeg(leg: string, message: ToGateway): void {
    const gateway = this.legs.get(leg);
    if (gateway !== undefined) gateway.say(message);
  }

  private async take(gateway: Gateway, message: FromGateway): Promise<void> {
    const host = this.host;
    if (host === null) return;
    switch (message.kind) {
      case 'hello':
        return this.greet(gateway, message);
      case 'sip':
        return this.sip(gateway, message);
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
        return this.fax(message);
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

  private async arrive(gateway: Gateway, message: FromGateway & { kind: 'call' }): Promise<void> {
    const callId = uuid();
    const { to, from, callerName, ref, trunkHost, device } = message;
    const fromPhoneId = device === undefined ? undefined : (await this.registrar.phone(device))?.id;
    this.legs.set(`${callId}.1`, gateway);
    gateway.say({ kind: 'callAccepted', ref, callId });
    const record = await this.recognise(from).catch(() => null);
    const trunks = [...(this.host?.exchange.view().trunks.values() ?? [])];
    const trunkId = trunks.find((trunk) => trunk.item.host === trunkHost)?.item.id;
    this.host?.submit({
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
    this.standIns.arrived(ref, callId);
  }

  /** The file is kept before the exchange hears that the call is over. */
  private async fax({ callId, pages, file }: FromGateway & { kind: 'fax' }): Promise<void> {
    const call = this.host?.exchange.view().calls.get(callId);
    const to = call?.lastDestination;
    if (call?.stage !== 'fax' || to?.kind !== 'fax') return;
    const content = faxFile(file);
    if (content === null) return;
    await this.keepFax({ boxId: to.id, callId, sender: call.from, pages, file: content });
    this.host?.submit({ kind: 'faxReceived', callId, pages });
  }

  private async sip(gateway: Gateway, { device, message: text, source }: FromGateway & { kind: 'sip' }) {
    const message = readSip(text);
    if (message === null) return;
    if ('status' in message) return this.capabilities(device, message);
    const { reply, outcome, phone } = await this.registrar.answer(message, source ?? null);
    gateway.say({ kind: 'sip', device, message: reply });
    // A phone that names a wrong account is still known by the device it is.
    const phoneId = phone?.id ?? (await this.registrar.phone(device))?.id ?? null;
    const host = this.host;
    if (phoneId === null || host === null) return;
    this.health.passed(phoneId, 'there', text);
    this.health.passed(phoneId, 'here', reply);
    this.health.cameFrom(phoneId, source ?? null);
    this.health.of(phoneId).transport = transportOf(message);
    switch (outcome.kind) {
      case 'challenged':
        return;
      case 'registered': {
        const fresh = !this.bindings.has(phoneId);
        this.bindings.set(phoneId, {
          gateway,
          device,
          contact: outcome.contact,
          expiresAt: Date.now() + outcome.expires * 1000,
        });
        if (this.health.of(phoneId).fault !== 'no codec in common' || fresh) this.health.fault(phoneId, null);
        // Refreshes are not events, only changes of state are.
        const known = host.exchange.view().phones.get(phoneId);
        if (known?.registration !== 'registered' && this.health.of(phoneId).fault === null)
          host.submit({ kind: 'phoneRegistered', phoneId, address: outcome.contact });
        this.askCapabilities(gateway, device, phoneId, outcome);
        const held = this.held.get(phoneId);
        this.held.delete(phoneId);
        if (held !== undefined) this.ring(held.name, held.effect);
        return;
      }
      case 'unregistered':
        this.unbind(phoneId, 'the phone signed off');
        return;
      case 'refused':
        this.refuse(phoneId, outcome.why, outcome.detail);
    }
  }

  /** What a registered phone can do is asked once with every registration (OPTIONS). */
  private askCapabilities(
    gateway: Gateway,
    device: string,
    phoneId: string,
    { account, contact }: { account: string; contact: string },
  ): void {
    const { transport } = this.health.of(phoneId);
    const request = optionsRequest({
      account,
      contact,
      domain: realm,
      callId: phoneId,
      sequence: ++this.asked,
      transport: transport ?? 'tls',
    });
    const text = writeSip(request);
    this.health.passed(phoneId, 'here', text);
    gateway.say({ kind: 'sip', device, message: text });
  }

  /** A phone's answer to OPTIONS: without a codec in common it would ring, and nobody would hear anybody. */
  private async capabilities(device: string, response: SipResponse): Promise<void> {
    const phone = await this.registrar.phone(device);
    if (phone === undefined || response.status !== 200) return;
    this.health.passed(phone.id, 'there', writeSip(response));
    const offered = codecsOf(response.body);
    if (offered === null) return;
    this.health.of(phone.id).codecs = offered;
    if (codecsInCommon(phone.codecs, offered).length > 0) {
      if (this.health.of(phone.id).fault !== 'no codec in common') return;
      this.health.fault(phone.id, null);
      const address = this.bindings.get(phone.id)?.contact;
      if (address !== undefined) this.host?.submit({ kind: 'phoneRegistered', phoneId: phone.id, address });
    } else this.refuse(phone.id, 'no codec in common', offered.join(', '), true);
  }

  /** `bound`: it is registered all the same, and stays known. */
  private refuse(phoneId: string, why: RegistrationFault, detail: string, bound = false): void {
    this.health.fault(phoneId, why, detail);
    if (!bound) this.bindings.delete(phoneId);
    const phone = this.host?.exchange.view().phones.get(phoneId);
    if (phone?.registration !== 'refused' || phone.why !== why)
      this.host?.submit({ kind: 'phoneRefused', phoneId, why });
  }

  /** Has a phone register again now; false when nobody carries it. */
  askAgain(phoneId: string, account: string): boolean {
    const gateway = this.bindings.get(phoneId)?.gateway ?? [...this.gateways][0];
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

  /**
   * A phone can register before the exchange has heard of it, right after it was made: what is known of it here is
   * said again once the exchange knows it.
   */
  tellUnheard(): void {
    for (const { item, registration } of [...(this.host?.exchange.view().phones.values() ?? [])]) {
      if (registration !== 'unregistered' || !registersBySip(item.kind)) continue;
      const { fault, detail } = this.health.of(item.id);
      const address = this.bindings.get(item.id)?.contact;
      if (fault !== null && fault !== 'registration expired')
        this.refuse(item.id, fault, detail, address !== undefined);
      else if (address !== undefined)
        this.host?.submit({ kind: 'phoneRegistered', phoneId: item.id, address });
    }
  }

  private unbind(phoneId: string, why: string): void {
    if (!this.bindings.delete(phoneId)) return;
    this.health.fault(phoneId, why === 'registration expired' ? why : null);
    this.host?.submit({ kind: 'phoneUnregistered', phoneId, why });
  }

  private expire(): void {
    const now = Date.now();
    for (const [phoneId, binding] of this.bindings)
      if (binding.expiresAt < now) this.unbind(phoneId, 'registration expired');
  }

  private lost(gateway: Gateway): void {
    this.gateways.delete(gateway);
    this.standIns.closed(gateway.say);
    this.later(graceMs, () => this.giveUpOnAbsent());
  }

  /** Phones and callers that did not come back in time are gone. */
  private giveUpOnAbsent(): void {
    const host = this.host;
    if (host === null) return;
    for (const [phoneId, binding] of this.bindings) {
      if (!this.gateways.has(binding.gateway)) this.bindings.delete(phoneId);
    }
    const state = host.exchange.view();
    for (const call of [...state.calls.values()]) {
      for (const leg of [...call.legs]) {
        // It may have ended with another leg of this call.
        if (!state.calls.has(call.id) || !call.legs.includes(leg) || this.isCarried(leg)) continue;
        if (leg.party === 'caller') host.submit({ kind: 'callerHungUp', callId: call.id });
        else if (leg.state === 'ringing')
          host.submit({ kind: 'legFailed', leg: leg.id, cause: 'unreachable' });
        else host.submit({ kind: 'legEnded', leg: leg.id });
      }
    }
    for (const phone of [...state.phones.values()]) {
      if (!registersBySip(phone.item.kind)) continue;
      if (phone.registration === 'registered' && !this.bindings.has(phone.item.id)) {
        host.submit({ kind: 'phoneUnregistered', phoneId: phone.item.id, why: 'connection lost' });
      }
    }
  }

  /** Whether a gateway that is here carries this leg. What a page plays is looked after elsewhere. */
  private isCarried(leg: Leg): boolean {
    const phone = this.host?.exchange.view().phones.get(leg.phoneId ?? '');
    if (phone?.item.kind === 'browser') return true;
    if (phone !== undefined && registersBySip(phone.item.kind)) {
      const binding = this.bindings.get(phone.item.id);
      return binding !== undefined && this.gateways.has(binding.gateway);
    }
    const gateway = this.legs.get(leg.over ?? leg.id);
    return gateway !== undefined && this.gateways.has(gateway);
  }

  private later(ms: number, work: () => void): void {
    const timer = setTimeout(() => {
      this.timers.delete(timer);
      work();
    }, ms);
    this.timers.add(timer);
  }
}

import type { WebSocket } from 'ws';
import type { Logger } from 'pino';
import { v7 as uuid } from 'uuid';
import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import type { Effect } from '@night-bell/core/exchange/effects';
import type { Host } from './host.ts';
import type { Devices } from './live.ts';
import type { Registrar } from './registrar.ts';

/** How long a lost gateway, or all of them after a restart of the host, may take to come back. */
const graceMs = 8_000;
const sweepMs = 5_000;

interface Binding {
  gateway: Gateway;
  device: string;
  expiresAt: number;
}

interface Gateway {
  name: string;
  socket: WebSocket;
}

export interface StandInState {
  connected: boolean;
  traffic: { on: boolean; speed: number };
  phones: number;
}

/**
 * The doors of the exchange: gateways of phones and lines, over the device protocol. Knows which device speaks for
 * which phone, carries effects to them, and turns what they report into events.
 */
export class Gateways implements Devices {
  private readonly registrar: Registrar;
  /** Which numbers stand-in callers may call. */
  private readonly callable: () => Promise<{ to: string; share: number }[]>;
  private readonly logger: Logger;
  private host: Host | null = null;
  private hostSince = 0;
  private readonly gateways = new Set<Gateway>();
  private readonly bindings = new Map<string, Binding>();
  /** Which gateway brought a call, so that its caller hears what happens. */
  private readonly callers = new Map<string, Gateway>();
  /** Rings for phones that have not come back yet after a restart. */
  private readonly held = new Map<string, { name: string; effect: Effect & { kind: 'ring' } }>();
  private readonly placed = new Map<string, (callId: string) => void>();
  private readonly timers = new Set<NodeJS.Timeout>();
  private readonly sweep: NodeJS.Timeout;
  private standIns: StandInState = { connected: false, traffic: { on: false, speed: 1 }, phones: 0 };

  constructor(
    registrar: Registrar,
    callable: () => Promise<{ to: string; share: number }[]>,
    logger: Logger,
  ) {
    this.registrar = registrar;
    this.callable = callable;
    this.logger = logger;
    this.sweep = setInterval(() => this.expire(), sweepMs);
  }

  close(): void {
    clearInterval(this.sweep);
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
    this.callers.clear();
    this.held.clear();
    // They reconnect, to the server that hosts now.
    for (const { socket } of this.gateways) socket.close(4503, 'not hosting');
  }

  get standInState(): StandInState {
    return this.standIns;
  }

  /** The set-up changed: stand-in callers call what leads somewhere now. */
  async numbersChanged(): Promise<void> {
    const numbers = await this.callable().catch(() => null);
    if (numbers !== null) this.tellStandIns({ kind: 'callable', numbers });
  }

  /** Asks the stand-ins to do something; false when none are connected. */
  tellStandIns(message: ToGateway): boolean {
    const standIns = [...this.gateways].find((gateway) => gateway.name === 'stand-ins');
    if (standIns === undefined) return false;
    send(standIns, message);
    return true;
  }

  /** Has a stand-in caller make this call; resolves to the id the exchange gave it. */
  placeCall(to: string, from: string, callerName?: string): Promise<string> | null {
    const ref = uuid();
    const placed = new Promise<string>((resolve, reject) => {
      const timer = this.later(5_000, () => {
        this.placed.delete(ref);
        reject(new Error('the stand-in caller did not call'));
      });
      this.placed.set(ref, (callId) => {
        clearTimeout(timer);
        resolve(callId);
      });
    });
    const told = this.tellStandIns({
      kind: 'placeCall',
      ref,
      to,
      from,
      ...(callerName === undefined ? {} : { callerName }),
    });
    if (told) return placed;
    placed.catch(() => undefined);
    return null;
  }

  connect(socket: WebSocket): void {
    if (this.host === null) {
      socket.close(4503, 'not hosting');
      return;
    }
    const gateway: Gateway = { name: '', socket };
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

  carryOut(name: string, effect: Effect): void {
    switch (effect.kind) {
      case 'ring':
        return this.ring(name, effect);
      case 'stopRinging':
        this.held.delete(effect.phoneId);
        return this.toPhone(effect.phoneId, { kind: 'stopRinging', effect: name, leg: effect.leg });
      case 'connect': {
        const message = { kind: 'connected' as const, effect: name, callId: effect.callId };
        this.toPhone(effect.phoneId, { ...message, leg: effect.legs[1] });
        return this.toCaller(effect.callId, { ...message, leg: effect.legs[0] });
      }
      case 'release': {
        const message = { kind: 'released' as const, effect: name, callId: effect.callId, leg: effect.leg };
        return effect.phoneId === null
          ? this.toCaller(effect.callId, message)
          : this.toPhone(effect.phoneId, message);
      }
      case 'play':
        return this.toCaller(effect.callId, {
          kind: 'play',
          effect: name,
          callId: effect.callId,
          prompt: effect.prompt,
        });
      case 'record': {
        const { callId, greetingSeconds, maxMessageSeconds } = effect;
        return this.toCaller(callId, {
          kind: 'record',
          effect: name,
          callId,
          greetingSeconds,
          maxMessageSeconds,
        });
      }
      case 'hold':
      case 'resume':
        return this.toCaller(effect.callId, { kind: effect.kind, effect: name, leg: effect.leg });
      case 'callEnded':
        this.callers.delete(effect.facts.callId);
        return;
      case 'agentChanged':
        return;
    }
  }

  private ring(name: string, effect: Effect & { kind: 'ring' }): void {
    const binding = this.bindings.get(effect.phoneId);
    if (binding !== undefined) {
      const { leg, callId, from, ringSeconds } = effect;
      send(binding.gateway, {
        kind: 'ring',
        effect: name,
        device: binding.device,
        leg,
        callId,
        from,
        ringSeconds,
      });
    } else if (Date.now() - this.hostSince < graceMs) this.held.set(effect.phoneId, { name, effect });
    else this.host?.submit({ kind: 'legFailed', leg: effect.leg, cause: 'unreachable' });
  }

  private toPhone(phoneId: string, message: ToGateway): void {
    const binding = this.bindings.get(phoneId);
    if (binding !== undefined) send(binding.gateway, message);
  }

  private toCaller(callId: string, message: ToGateway): void {
    const gateway = this.callers.get(callId);
    if (gateway !== undefined) send(gateway, message);
  }

  private async take(gateway: Gateway, message: FromGateway): Promise<void> {
    const host = this.host;
    if (host === null) return;
    switch (message.kind) {
      case 'hello':
        return this.greet(gateway, message.gateway, message.legs, message.calls);
      case 'sip':
        return this.sip(gateway, message.device, message.message);
      case 'answered':
        host.submit({ kind: 'legAnswered', leg: message.leg });
        return;
      case 'failed':
        host.submit({ kind: 'legFailed', leg: message.leg, cause: message.cause });
        return;
      case 'hungUp':
        host.submit({ kind: 'legEnded', leg: message.leg });
        return;
      case 'call':
        return this.arrive(gateway, message);
      case 'callerHungUp':
        host.submit({ kind: 'callerHungUp', callId: message.callId });
        return;
      case 'trafficState':
        this.standIns = {
          connected: true,
          traffic: { on: message.on, speed: message.speed },
          phones: message.phones,
        };
        return;
      case 'enrolled':
        return;
    }
  }

  private arrive(gateway: Gateway, message: FromGateway & { kind: 'call' }): void {
    const callId = uuid();
    const { to, from, callerName, ref } = message;
    this.callers.set(callId, gateway);
    send(gateway, { kind: 'callAccepted', ref, callId });
    this.host?.submit({
      kind: 'callArrived',
      callId,
      to,
      from,
      ...(callerName === undefined ? {} : { callerName }),
      standIn: gateway.name === 'stand-ins',
    });
    this.placed.get(ref)?.(callId);
    this.placed.delete(ref);
  }

  private async sip(gateway: Gateway, device: string, text: string): Promise<void> {
    const answered = await this.registrar.answer(text);
    if (answered === null) return;
    send(gateway, { kind: 'sip', device, message: answered.reply });
    const { outcome, phoneId } = answered;
    const host = this.host;
    if (phoneId === null || host === null) return;
    switch (outcome.kind) {
      case 'challenged':
        return;
      case 'registered': {
        this.bindings.set(phoneId, { gateway, device, expiresAt: Date.now() + outcome.expires * 1000 });
        // Refreshes are not events, only changes of state are.
        const known = host.exchange.view().phones.get(phoneId);
        if (known?.registration !== 'registered')
          host.submit({ kind: 'phoneRegistered', phoneId, address: outcome.contact });
        const held = this.held.get(phoneId);
        this.held.delete(phoneId);
        if (held !== undefined) this.ring(held.name, held.effect);
        return;
      }
      case 'unregistered':
        this.unbind(phoneId, 'the phone signed off');
        return;
      case 'refused':
        if (outcome.why === 'wrong secret') {
          this.bindings.delete(phoneId);
          host.submit({ kind: 'phoneRefused', phoneId, why: 'wrong secret' });
        }
    }
  }

  /** Both sides say what is alive; what only one of them knows ends. */
  private greet(gateway: Gateway, name: string, legs: string[], calls: string[]): void {
    const host = this.host!;
    gateway.name = name;
    const state = host.exchange.view();
    for (const callId of calls) {
      if (state.calls.has(callId)) this.callers.set(callId, gateway);
      else send(gateway, { kind: 'released', effect: 'hello', callId, leg: `${callId}.1` });
    }
    const known = new Set([...state.calls.values()].flatMap((call) => call.legs.map((leg) => leg.id)));
    for (const leg of legs) {
      if (!known.has(leg))
        send(gateway, { kind: 'released', effect: 'hello', callId: leg.slice(0, leg.lastIndexOf('.')), leg });
    }
    void this.numbersChanged();
  }

  private unbind(phoneId: string, why: string): void {
    if (!this.bindings.delete(phoneId)) return;
    this.host?.submit({ kind: 'phoneUnregistered', phoneId, why });
  }

  private expire(): void {
    const now = Date.now();
    for (const [phoneId, binding] of this.bindings)
      if (binding.expiresAt < now) this.unbind(phoneId, 'registration expired');
  }

  private lost(gateway: Gateway): void {
    this.gateways.delete(gateway);
    if (gateway.name === 'stand-ins') this.standIns = { ...this.standIns, connected: false };
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
      const caller = this.callers.get(call.id);
      if (caller === undefined || !this.gateways.has(caller)) {
        this.callers.delete(call.id);
        host.submit({ kind: 'callerHungUp', callId: call.id });
        continue;
      }
      const leg = call.legs.find((each) => each.phoneId !== null && !this.bindings.has(each.phoneId));
      if (leg === undefined) continue;
      if (leg.state === 'ringing') host.submit({ kind: 'legFailed', leg: leg.id, cause: 'unreachable' });
      else host.submit({ kind: 'legEnded', leg: leg.id });
    }
    for (const phone of [...state.phones.values()]) {
      if (phone.registration === 'registered' && !this.bindings.has(phone.item.id)) {
        host.submit({ kind: 'phoneUnregistered', phoneId: phone.item.id, why: 'connection lost' });
      }
    }
  }

  private later(ms: number, work: () => void): NodeJS.Timeout {
    const timer = setTimeout(() => {
      this.timers.delete(timer);
      work();
    }, ms);
    this.timers.add(timer);
    return timer;
  }
}

function send(gateway: Gateway, message: ToGateway): void {
  if (gateway.socket.readyState === gateway.socket.OPEN) gateway.socket.send(JSON.stringify(message));
}

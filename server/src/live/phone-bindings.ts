import { registersBySip } from '@night-bell/core/phones/catalogue';
import type { FromGateway } from '@night-bell/core/devices/protocol';
import { transportOf } from '@night-bell/core/sip/addresses';
import type { RegistrationFault } from '@night-bell/core/sip/faults';
import { readSip, type SipResponse, writeSip } from '@night-bell/core/sip/message';
import { codecsInCommon, codecsOf, optionsRequest } from '@night-bell/core/sip/options';
import type { Binding, Gateway } from './gateway.ts';
import type { Host } from './host.ts';
import { HealthBook } from './phone-health.ts';
import { realm, type Registrar } from './registrar.ts';

/** Where each phone is reached, from the SIP messages of devices; changes of state go to the exchange as events. */
export class PhoneBindings {
  readonly byPhone = new Map<string, Binding>();
  /** How each phone talks with us, by its id. */
  readonly health = new HealthBook();
  private readonly registrar: Registrar;
  private readonly hostNow: () => Host | null;
  /** Called when a phone can be reached; `fresh` when it could not be before. */
  private readonly registered: (phoneId: string, fresh: boolean) => void;
  private asked = 0;

  constructor(
    registrar: Registrar,
    hostNow: () => Host | null,
    registered: (phoneId: string, fresh: boolean) => void,
  ) {
    this.registrar = registrar;
    this.hostNow = hostNow;
    this.registered = registered;
  }

  async hear(gateway: Gateway, { device, message: text, source }: FromGateway & { kind: 'sip' }) {
    const message = readSip(text);
    if (message === null) return;
    if ('status' in message) return this.capabilities(device, message);
    const { reply, outcome, phone } = await this.registrar.answer(message, source ?? null);
    gateway.say({ kind: 'sip', device, message: reply });
    // A phone that names a wrong account is still known by the device it is.
    const phoneId = phone?.id ?? (await this.registrar.phone(device))?.id ?? null;
    const host = this.hostNow();
    if (phoneId === null || host === null) return;
    this.health.passed(phoneId, 'there', text);
    this.health.passed(phoneId, 'here', reply);
    this.health.cameFrom(phoneId, source ?? null);
    this.health.of(phoneId).transport = transportOf(message);
    switch (outcome.kind) {
      case 'challenged':
        return;
      case 'registered': {
        const fresh = !this.byPhone.has(phoneId);
        this.byPhone.set(phoneId, {
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
        this.registered(phoneId, fresh);
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
      const address = this.byPhone.get(phone.id)?.contact;
      if (address !== undefined)
        this.hostNow()?.submit({ kind: 'phoneRegistered', phoneId: phone.id, address });
    } else this.refuse(phone.id, 'no codec in common', offered.join(', '), true);
  }

  /** `bound`: it is registered all the same, and stays known. */
  private refuse(phoneId: string, why: RegistrationFault, detail: string, bound = false): void {
    this.health.fault(phoneId, why, detail);
    if (!bound) this.byPhone.delete(phoneId);
    const phone = this.hostNow()?.exchange.view().phones.get(phoneId);
    if (phone?.registration !== 'refused' || phone.why !== why)
      this.hostNow()?.submit({ kind: 'phoneRefused', phoneId, why });
  }

  /**
   * A phone can register before the exchange has heard of it, right after it was made: what is known of it here is
   * said again once the exchange knows it.
   */
  tellUnheard(): void {
    for (const { item, registration } of [...(this.hostNow()?.exchange.view().phones.values() ?? [])]) {
      if (registration !== 'unregistered' || !registersBySip(item.kind)) continue;
      const { fault, detail } = this.health.of(item.id);
      const address = this.byPhone.get(item.id)?.contact;
      if (fault !== null && fault !== 'registration expired')
        this.refuse(item.id, fault, detail, address !== undefined);
      else if (address !== undefined)
        this.hostNow()?.submit({ kind: 'phoneRegistered', phoneId: item.id, address });
    }
  }

  /** Has a registered phone dial; false when nobody carries it. */
  dial(phoneId: string, to: string): boolean {
    const binding = this.byPhone.get(phoneId);
    binding?.gateway.say({ kind: 'dialOn', device: binding.device, to });
    return binding !== undefined;
  }

  private unbind(phoneId: string, why: string): void {
    if (!this.byPhone.delete(phoneId)) return;
    this.health.fault(phoneId, why === 'registration expired' ? why : null);
    this.hostNow()?.submit({ kind: 'phoneUnregistered', phoneId, why });
  }

  expire(): void {
    const now = Date.now();
    for (const [phoneId, binding] of this.byPhone)
      if (binding.expiresAt < now) this.unbind(phoneId, 'registration expired');
  }
}

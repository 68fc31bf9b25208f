import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import { phoneLinesOf } from '@night-bell/core/exchange/offers/phone-lines';
import type { Gateway } from './gateway.ts';
import type { Host } from './host.ts';
import type { PhoneBindings } from './phone-bindings.ts';

type Ring = Effect & { kind: 'ring' };

/** What rings need to know of everything around them. */
interface Around {
  phones: PhoneBindings;
  host: () => Host | null;
  /** Whether phones that are not there now may only not have come back yet, after a restart. */
  mayStillCome: () => boolean;
  carriedBy: (leg: string, gateway: Gateway) => void;
}

/** Phones that ring: each by the gateway that speaks for it, with what its display shows. */
export class PhoneRings {
  private readonly around: Around;
  /** For phones that have not come back yet after a restart. */
  private readonly held = new Map<string, { name: string; effect: Ring }>();

  constructor(around: Around) {
    this.around = around;
  }

  ring(name: string, effect: Ring): void {
    const host = this.around.host();
    const { leg, callId, from, ringSeconds, answerBySelf } = effect;
    const state = host?.exchange.view();
    // A person's own page sees by itself that it rings; lifting by itself is done for it.
    if (state?.phones.get(effect.phoneId)?.item.kind === 'browser') {
      if (answerBySelf) host?.submit({ kind: 'legAnswered', leg });
      return;
    }
    const binding = this.around.phones.byPhone.get(effect.phoneId);
    if (binding !== undefined) {
      const { gateway, device } = binding;
      const call = state?.calls.get(callId);
      const shows = state === undefined || call === undefined ? [] : phoneLinesOf(state, call);
      this.around.carriedBy(leg, gateway);
      gateway.say({
        ...{ kind: 'ring', effect: name, device, leg, callId, from, ringSeconds, shows, answerBySelf },
      });
    } else if (this.around.mayStillCome()) this.held.set(effect.phoneId, { name, effect });
    else host?.submit({ kind: 'legFailed', leg, cause: 'unreachable' });
  }

  /** What was to ring meanwhile rings. */
  phoneIsBack(phoneId: string): void {
    const held = this.held.get(phoneId);
    this.held.delete(phoneId);
    if (held !== undefined) this.ring(held.name, held.effect);
  }

  stop(leg: string): void {
    for (const [phoneId, { effect }] of this.held) if (effect.leg === leg) this.held.delete(phoneId);
  }

  clear(): void {
    this.held.clear();
  }
}

import type { Leg } from '@night-bell/core/exchange/media/leg';
import { registersBySip } from '@night-bell/core/phones/catalogue';
import type { Gateway } from './gateway.ts';
import type { Host } from './host.ts';
import type { PhoneBindings } from './phone-bindings.ts';

/** Phones and callers whose gateway did not come back in time are gone. */
export function giveUpOnAbsent(
  host: Host,
  phones: PhoneBindings,
  carriers: ReadonlyMap<string, Gateway>,
  here: ReadonlySet<Gateway>,
): void {
  for (const [phoneId, binding] of phones.byPhone)
    if (!here.has(binding.gateway)) phones.byPhone.delete(phoneId);
  const state = host.exchange.view();
  for (const call of [...state.calls.values()]) {
    for (const leg of [...call.legs]) {
      // It may have ended with another leg of this call.
      if (!state.calls.has(call.id) || !call.legs.includes(leg) || isCarried(leg)) continue;
      if (leg.party === 'caller') host.submit({ kind: 'callerHungUp', callId: call.id });
      else if (leg.state === 'ringing') host.submit({ kind: 'legFailed', leg: leg.id, cause: 'unreachable' });
      else host.submit({ kind: 'legEnded', leg: leg.id });
    }
  }
  for (const { item, registration } of [...state.phones.values()])
    if (registersBySip(item.kind) && registration === 'registered' && !phones.byPhone.has(item.id))
      host.submit({ kind: 'phoneUnregistered', phoneId: item.id, why: 'connection lost' });

  /** Whether a gateway that is here carries this leg. What a page plays is looked after elsewhere. */
  function isCarried(leg: Leg): boolean {
    const phone = state.phones.get(leg.phoneId ?? '')?.item;
    if (phone?.kind === 'browser') return true;
    const gateway =
      phone !== undefined && registersBySip(phone.kind)
        ? phones.byPhone.get(phone.id)?.gateway
        : carriers.get(leg.over ?? leg.id);
    return gateway !== undefined && here.has(gateway);
  }
}

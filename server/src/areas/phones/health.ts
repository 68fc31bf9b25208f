import type { Exchange } from '@night-bell/core/exchange/exchange';
import type { PlayedDevice } from '@night-bell/core/devices/protocol';
import { registersBySip } from '@night-bell/core/phones/catalogue';
import { faultWords, type FaultWords, type RegistrationFault } from '@night-bell/core/sip/faults';
import { Problem } from '../../http/problems.ts';
import type { Gateways } from '../../live/gateways.ts';
import type { Health, PassedMessage } from '../../live/phone-health.ts';
import type { PhoneView } from './store.ts';

export interface PhoneHealth extends Pick<Health, 'transport' | 'codecs' | 'source' | 'moves'>, FaultWords {
  registration: 'registered' | 'unregistered' | 'refused';
  since: number | null;
  address: string | null;
  fault: RegistrationFault | null;
  /** How a stand-in plays it; null when it is real. */
  standIn: PlayedDevice | null;
  messages: (PassedMessage & { start: string })[];
}

/** The state the exchange knows, the messages behind it, and the words for what is wrong. */
export function phoneHealth(phone: PhoneView, exchange: Exchange, gateways: Gateways): PhoneHealth {
  if (!registersBySip(phone.kind))
    throw new Problem('notFound', 'This phone does not register, so there is nothing to read.');
  const known = exchange.view().phones.get(phone.id);
  const page = gateways.phones.health.of(phone.id);
  // After a restart of the server the exchange still knows what the messages said.
  const fault =
    page.fault ?? ((known?.registration === 'refused' ? known.why : null) as RegistrationFault | null);
  const words = fault === null ? { what: '', mend: null, button: '' } : faultWords(fault, page.detail);
  return {
    registration: known?.registration ?? 'unregistered',
    since: known?.since ?? null,
    address: known?.address ?? null,
    fault,
    ...words,
    transport: page.transport,
    codecs: page.codecs,
    source: page.source,
    moves: page.moves,
    standIn: gateways.standIns.plays(phone.account),
    messages: page.messages.map((message) => ({ ...message, start: message.text.split('\r\n', 1)[0]! })),
  };
}

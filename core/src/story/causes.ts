import type { LegFailure } from './facts.ts';

/** A cause as the trade knows it: SIP status (RFC 3261, section 21) and Q.850 cause value (ITU-T Q.850, table 1). */
export interface TradeCause {
  sip: number;
  sipReason: string;
  q850: number;
}

export const tradeCauses: Readonly<Record<LegFailure, TradeCause>> = {
  declined: { sip: 603, sipReason: 'Decline', q850: 21 },
  busy: { sip: 486, sipReason: 'Busy Here', q850: 17 },
  unreachable: { sip: 480, sipReason: 'Temporarily Unavailable', q850: 27 },
  noAnswer: { sip: 408, sipReason: 'Request Timeout', q850: 19 },
  refused: { sip: 403, sipReason: 'Forbidden', q850: 21 },
  noRoute: { sip: 404, sipReason: 'Not Found', q850: 1 },
  congestion: { sip: 503, sipReason: 'Service Unavailable', q850: 34 },
};

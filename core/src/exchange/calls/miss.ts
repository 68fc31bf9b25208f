import type { Reason } from '../../distribute/eligibility.ts';
import type { RingMissWhy } from '../../plan/ring.ts';
import type { NotTaken } from '../../story/records.ts';

/** What a caller would say of a phone that was not lifted, by how that ended. */
export function missBy(reason: NotTaken): RingMissWhy {
  switch (reason) {
    case 'busy':
      return 'busy';
    case 'unreachable':
    case 'refused':
    case 'noRoute':
    case 'congestion':
    case 'unattended':
      return 'outage';
    default:
      return 'rang';
  }
}

/** The same of somebody who was not rung: on a call, or rung for one, is busy; else no phone of theirs can ring. */
export function missByReasons(reasons: readonly Reason[]): RingMissWhy {
  const busy = reasons.some(({ code }) => code === 'ringing' || code === 'atLimit' || code === 'reserved');
  return busy ? 'busy' : 'outage';
}

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
      return 'outage';
    default:
      return 'rang';
  }
}

import { Problem } from '../../http/problems.ts';
import type { Caller } from '../../http/route.ts';
import { callLive } from '../../live/view.ts';
import type { Live } from '../../live/live.ts';

/** The leg of this person in a call that rings them or that they talk in, and how it stands. */
export function ownLeg(
  live: Live,
  callId: string,
  me: Caller,
): { leg: string; phoneId: string | null; rings: boolean } {
  const call = callLive(live.exchange.view(), callId);
  const told = call?.consulted;
  if (call != null && told?.personId === me.personId)
    return { leg: told.leg, phoneId: told.phoneId, rings: told.rings };
  if (call?.leg == null || call.personId !== me.personId)
    throw new Problem('notNow', 'That call has moved on meanwhile.');
  return { leg: call.leg, phoneId: call.phoneId, rings: call.stage === 'ringing' };
}

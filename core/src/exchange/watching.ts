import type { OwnCall, Watched } from '../phones/line-keys.ts';
import { consultedIn } from './calls/resting.ts';
import type { Call } from './calls/call.ts';
import type { State } from './kernel/state.ts';
import { legOf } from './media/leg.ts';

/** How somebody stands for a key that watches them, at `now` (UTC milliseconds). */
export function watchedNow(
  state: Readonly<State>,
  personId: string,
  now: number,
): Watched & { callId: string | null } {
  const agent = state.agents.get(personId);
  const call = agent?.ringing ?? null;
  if (agent !== undefined && call !== null && call.direction !== 'line') {
    const caller = call.callerName ?? (call.direction === 'outbound' ? call.to : call.from);
    return {
      state: 'ringing',
      ringsMs: Math.max(0, now - legOf(call, agent).since),
      caller,
      callId: call.id,
    };
  }
  const none = { ringsMs: 0, caller: null, callId: null };
  if (agent === undefined || agent.phone.state === 'none' || agent.phone.state === 'unregistered')
    return { state: 'unreachable', ...none };
  return { state: agent.calls.length > 0 ? 'talking' : 'free', ...none };
}

/** The leg on which somebody talks now, and what they do there as far as a key that watches `watchedId` goes. */
export function ownCall(
  state: Readonly<State>,
  personId: string,
  watchedId: string,
): { leg: string | null; own: OwnCall } {
  const leg = talkingLeg(state, personId);
  const call = state.agents.get(personId)?.calls.find((each) => each.legs.some(({ id }) => id === leg));
  return { leg, own: call === undefined ? 'none' : doingOf(call, personId, watchedId) };
}

/** The leg on which somebody talks now; null when they do not. */
export function talkingLeg(state: Readonly<State>, personId: string): string | null {
  const legs = state.agents.get(personId)?.calls.flatMap((call) => call.legs) ?? [];
  return legs.find((leg) => leg.personId === personId && leg.state === 'connected')?.id ?? null;
}

function doingOf(call: Call, personId: string, watchedId: string): OwnCall {
  if (call.direction !== 'inbound' || call.talkingAgent?.person.id !== personId) return 'other';
  const consulted = consultedIn(call);
  if (consulted === null) return 'caller';
  return consulted.person.id === watchedId ? 'telling' : 'other';
}

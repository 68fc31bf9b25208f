import type { Call } from '../calls/call.ts';
import { effect, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';

/** How long an opt-out is remembered here: contacts leased before it are in the host's hands no longer than that. */
const rememberMs = 10 * 60_000;

/** Kept in the order of time, so that forgetting looks at the oldest only. */
export function rememberOptOut(state: State, e164: string): void {
  for (const [number, at] of state.optedOut) {
    if (at >= state.now - rememberMs) break;
    state.optedOut.delete(number);
  }
  state.optedOut.delete(e164);
  state.optedOut.set(e164, state.now);
}

/** Somebody pressed a key, or went through a step, that keeps campaigns from calling this number ever again. */
export function askedByKey(state: State, call: Call, e164: string): void {
  effect(state, { kind: 'optOut', e164, callId: call.id });
  note(state, { callId: call.id, at: state.now, kind: 'optedOut', how: 'key' });
  rememberOptOut(state, e164);
}

import type { State } from '../kernel/state.ts';
import { activityAt } from './activity.ts';
import { Call, type CallStart } from './call.ts';

/** A call that begins now. */
export function beginCall(state: State, start: CallStart): Call {
  const call = new Call(start, state.now, activityAt(state.now, { kind: 'step' }));
  state.calls.set(call.id, call);
  return call;
}

import type { CallResult } from '../../story/facts.ts';
import type { Refusal } from '../kernel/events.ts';
import type { State } from '../kernel/state.ts';
import { isOffLine } from '../queues/place.ts';
import type { Call } from './call.ts';
import { endCall } from './ending.ts';

export function callerHangsUp(state: State, callId: string): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined || (call.direction !== 'inbound' && call.direction !== 'dialled'))
    return 'unknownCall';
  // Who was promised to be called back is not on the line.
  if (isOffLine(call)) return 'unknownCall';
  endCall(state, call, 'caller', resultWhenLeft(state, call));
  return null;
}

/** What a call was for a caller who leaves it now. */
function resultWhenLeft(state: State, call: Call): CallResult {
  const { activity } = call;
  switch (activity.kind) {
    case 'bridged':
    case 'consulting':
      return 'answered';
    // Transferred, and gone before the next one answered.
    case 'waiting':
    case 'offered':
    case 'dialOut':
      return call.transferredBy === null ? 'abandoned' : 'answered';
    case 'conference':
      return 'conference';
    case 'bridgedOutside':
      return resultOfDialOut(call);
    case 'recording':
      return state.now > activity.from ? 'voicemail' : 'abandoned';
    default:
      return 'abandoned';
  }
}

/** A talk with somebody outside is a forwarded call, or one that a person of ours made and had answered. */
export function resultOfDialOut(call: Call): 'forwarded' | 'answered' {
  return call.direction === 'dialled' ? 'answered' : 'forwarded';
}

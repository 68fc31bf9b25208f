import type { Refusal } from '../kernel/events.ts';
import { note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { endCall } from './ending.ts';

/** The pages of a fax are in, as a file; the sender's call is over with them. */
export function faxReceived(state: State, callId: string, pages: number): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined) return 'unknownCall';
  if (call.activity.kind !== 'receivingFax') return 'notExpected';
  note(state, { callId: call.id, at: state.now, kind: 'faxReceived', pages });
  endCall(state, call, 'caller', 'fax');
  return null;
}

import type { RecordBody } from '../../story/records.ts';
import { note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { connect, resumeCaller } from '../media/hearing.ts';
import { legOf } from '../media/leg.ts';
import type { Call } from './call.ts';
import { begin } from './resting.ts';

/** The consultation is over, and the caller is with the one they talked with again. */
export function callerBack(
  state: State,
  call: Call,
  why: Extract<RecordBody, { kind: 'transferCancelled' }>['why'],
): void {
  const agent = call.talkingAgent!;
  begin(call, call.activity.since, { kind: 'bridged' });
  resumeCaller(state, call);
  connect(state, call, call.legs[0]!, legOf(call, agent));
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'transferCancelled',
    personId: agent.person.id,
    name: agent.person.name,
    why,
  });
}

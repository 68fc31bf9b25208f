import { endCall, leaveCall, wrapUpOf } from '../calls/ending.ts';
import type { Call } from '../calls/call.ts';
import { note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import type { Leg } from '../media/leg.ts';
import { measure } from '../queues/load.ts';
import { enterAfterTalk } from './run.ts';

/** Our side hung up first: the caller goes on where their plan says, once, or the call is over. */
export function talkEnded(state: State, call: Call, leg: Leg): null {
  const { afterTalk, talkingAgent: agent } = call;
  if (afterTalk === null || agent === null || call.direction !== 'inbound' || leg.party !== 'agent') {
    endCall(state, call, 'agent', 'answered');
    return null;
  }
  const talkedMs = state.now - call.activity.since;
  measure(state, call, wrapUpOf(agent, call));
  note(state, { callId: call.id, at: state.now, kind: 'talkOver', name: agent.person.name, talkedMs });
  leaveCall(state, call, leg, agent);
  call.queue = null;
  call.afterTalk = null;
  call.talkIsOver = true;
  enterAfterTalk(state, call, afterTalk);
  return null;
}

import { endCall, leaveCall, wrapUpOf } from '../calls/ending.ts';
import type { Call } from '../calls/call.ts';
import { note } from '../kernel/journal.ts';
import { sendLater } from '../kernel/later.ts';
import type { State } from '../kernel/state.ts';
import type { Leg } from '../media/leg.ts';
import { measure } from '../queues/load.ts';
import { keepPlace } from '../queues/place.ts';
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

/**
 * The agent's phone was lost in the middle of a talk: a caller who came through a queue is back in it, in their place. For
 * all others the talk is over as if it had been ended.
 */
export function talkBrokeOff(state: State, call: Call, leg: Leg): null {
  const { talkingAgent: agent } = call;
  const queueId = call.queue?.item.id;
  if (
    agent === null ||
    queueId === undefined ||
    call.direction !== 'inbound' ||
    leg.personId !== agent.person.id
  )
    return talkEnded(state, call, leg);
  const talkedMs = state.now - call.activity.since;
  measure(state, call, wrapUpOf(agent, call));
  note(state, {
    ...{ callId: call.id, at: state.now, kind: 'cutOff' as const, personId: agent.person.id },
    ...{ name: agent.person.name, talkedMs },
  });
  // Before the agent is free: else they would be given somebody who came later.
  keepPlace(call);
  sendLater(state, call, { kind: 'queue', id: queueId });
  leaveCall(state, call, leg, agent);
  return null;
}

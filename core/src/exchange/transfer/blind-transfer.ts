import type { Destination } from '../../model/destination.ts';
import { leaveCall } from '../calls/ending.ts';
import type { Refusal } from '../kernel/events.ts';
import { note, release } from '../kernel/journal.ts';
import { destinationName } from '../kernel/names.ts';
import type { State } from '../kernel/state.ts';
import { sendLater } from '../kernel/later.ts';
import { completeTransfer } from './consultation.ts';
import { keepPlace } from '../queues/place.ts';
import { talkingWithCaller } from './talking.ts';

/**
 * The agent sends the caller they talk with on to somebody else, and is done with the call. To the colleague whom they
 * consult, that puts the caller through. The time they talked counts for the call.
 */
export function transfer(state: State, legId: string, to: Destination): Refusal | null {
  const found = talkingWithCaller(state, legId);
  if (typeof found === 'string') return found;
  const { call, leg, agent } = found;
  const { activity } = call;
  if (to.kind === 'person' && to.id === agent.person.id) return 'notExpected';
  if (activity.kind === 'consulting') {
    if (to.kind !== 'person' || to.id !== activity.consulted.person.id) return 'notExpected';
    release(state, call, leg.id, 'normal');
    completeTransfer(state, call);
    return null;
  }
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'transferred',
    personId: agent.person.id,
    name: agent.person.name,
    to: destinationName(state, to),
    toId: to.kind === 'person' ? to.id : null,
    talkedMs: state.now - activity.since,
    attended: false,
  });
  release(state, call, leg.id, 'normal');
  leaveCall(state, call, leg, agent);
  keepPlace(call);
  sendLater(state, call, to);
  return null;
}

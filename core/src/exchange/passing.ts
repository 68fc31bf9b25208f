import type { Destination } from '../model/destination.ts';
import { registersBySip } from '../phones/catalogue.ts';
import { refreshAgent } from './agents.ts';
import { putThrough, talkingWithCaller } from './announcing.ts';
import { leaveCall, releaseLeg } from './ending.ts';
import type { Refusal } from './events.ts';
import { destinationName } from './explain.ts';
import { endRinging, ringAgent, ringingLeg } from './ringing.ts';
import type { Agent, State } from './state.ts';

/** Seconds a phone has to lift by itself after its person took a call that rang elsewhere. */
const takeSeconds = 10;

/** Whether one more call may be put to this agent now, whatever their presence. */
function hasRoom(agent: Agent): boolean {
  return agent.ringing === null && agent.keptFor === null && agent.calls.length < agent.callLimit;
}

/**
 * A call that rings a colleague is taken on this phone: theirs stops, this one lifts by itself. Nobody rests for it.
 * When this phone does not lift after all, the call goes on as if the colleague had not answered.
 */
export function takeRinging(state: State, callId: string, phoneId: string): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined) return 'unknownCall';
  const phone = state.phones.get(phoneId);
  const agent = state.agents.get(phone?.item.personId ?? '');
  if (phone === undefined || agent === undefined || agent.retired) return 'unknownPhone';
  const colleague = call.ringingAgent;
  if (call.direction !== 'inbound' || colleague === null || colleague === agent) return 'legNotRinging';
  // Who announces a caller is in this very call.
  if (call.talkingAgent === agent) return 'notExpected';
  if (!registersBySip(phone.item.kind) || phone.registration !== 'registered') return 'notReachable';
  if (!hasRoom(agent)) return 'atLimit';
  const leg = ringingLeg(call);
  const rangMs = state.now - leg.since;
  state.out.effects.push({ kind: 'stopRinging', callId, leg: leg.id, why: 'takenElsewhere' });
  endRinging(state, call, colleague);
  refreshAgent(state, colleague);
  state.todo.push(colleague);
  if (state.out.detail !== 'none')
    state.out.records.push({
      callId,
      at: state.now,
      kind: 'takenFrom',
      personId: agent.person.id,
      name: agent.person.name,
      fromId: colleague.person.id,
      fromName: colleague.person.name,
      rangMs,
    });
  if (call.announcedTo !== null) call.announcedTo = agent;
  call.pickedUp = true;
  ringAgent(state, agent, call, takeSeconds, { phone, liftsByItself: true });
  return null;
}

/**
 * The agent sends the caller they talk with on to somebody else, and is done with the call. To the colleague to whom they
 * announced the caller, that puts the caller through. The time they talked counts for the call.
 */
export function handOver(state: State, legId: string, to: Destination): Refusal | null {
  const found = talkingWithCaller(state, legId);
  if (typeof found === 'string') return found;
  const { call, leg, agent } = found;
  if (to.kind === 'person' && to.id === agent.person.id) return 'notExpected';
  if (call.announcedTo !== null) {
    if (to.kind !== 'person' || to.id !== call.announcedTo.person.id) return 'notExpected';
    releaseLeg(state, call, leg.id, 'normal');
    putThrough(state, call);
    return null;
  }
  if (state.out.detail !== 'none')
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'handedOver',
      personId: agent.person.id,
      name: agent.person.name,
      to: destinationName(state, to),
      toId: to.kind === 'person' ? to.id : null,
      talkedMs: state.now - call.stageSince,
      announced: false,
    });
  releaseLeg(state, call, leg.id, 'normal');
  leaveCall(state, call, leg, agent);
  state.todo.push({ send: call, to });
  return null;
}

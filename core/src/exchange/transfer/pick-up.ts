import { registersBySip } from '../../phones/catalogue.ts';
import type { Agent } from '../agents/agent.ts';
import { offerOf } from '../calls/resting.ts';
import type { Refusal } from '../kernel/events.ts';
import { note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { legById } from '../media/leg.ts';
import { offerTo, withdrawAll } from '../offers/ringing.ts';

/** Seconds a phone has to lift by itself after its person took a call that rang elsewhere. */
const pickUpSeconds = 10;

/** Whether one more call may be put to this agent now, whatever their presence. */
function hasRoom(agent: Agent): boolean {
  return agent.ringing === null && agent.reservedFor === null && agent.callCount < agent.callLimit;
}

/**
 * A call that rings a colleague is taken on this phone: theirs stops, this one lifts by itself. Nobody backs off for it.
 * When this phone does not lift after all, the call goes on as if the colleague had not answered.
 */
export function pickUp(state: State, callId: string, phoneId: string): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined) return 'unknownCall';
  const phone = state.phones.get(phoneId);
  const agent = state.agents.get(phone?.item.personId ?? '');
  if (phone === undefined || agent === undefined || agent.retired) return 'unknownPhone';
  const offer = offerOf(call);
  if (call.direction !== 'inbound' || offer === null || offer.parts.some((part) => part.agent === agent))
    return 'legNotRinging';
  // Who consults a colleague is in this very call.
  if (call.talkingAgent === agent) return 'notExpected';
  if (!registersBySip(phone.item.kind) || phone.registration !== 'registered') return 'notReachable';
  if (!hasRoom(agent)) return 'atLimit';
  const from = offer.parts[0]!;
  const rangMs = state.now - legById(call, from.legId).since;
  withdrawAll(state, call, offer, 'takenElsewhere');
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'pickedUp',
    personId: agent.person.id,
    name: agent.person.name,
    fromId: from.agent.person.id,
    fromName: from.agent.person.name,
    rangMs,
  });
  if (call.activity.kind === 'consulting') call.activity.consulted = agent;
  offerTo(state, call, [agent], pickUpSeconds, { phone, liftsByItself: true, pickedUp: true });
  return null;
}

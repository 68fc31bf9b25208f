import { agentSideEnded } from './announcing.ts';
import {
  contactFailed,
  contactHangsUp,
  contactLifted,
  contactPressed,
  contactRangOut,
  greetingEnded,
} from './contacts.ts';
import type { LegFailure, Refusal } from './events.ts';
import { outsideAnswered, outsideEnded, outsideFailed, outsideRangOut } from './forwarding.ts';
import { closeLine, holdLine, lineFailed, lineLifted } from './lines.ts';
import { takeAnswer } from './answering.ts';
import { agentLegFailed, agentLifted, agentRangOut, findLeg } from './offers.ts';
import { ringingLeg } from './ringing.ts';
import { roomKey } from './rooms.ts';
import type { Leg } from './call-parts.ts';
import type { Call, State } from './state.ts';

/** The key with which somebody reached on an outside number takes a call. */
export const acceptKey = '1';

/** What devices and providers report of a leg, sent to whom it concerns: a contact, a line, or an agent's phone. */
export function legAnswered(state: State, legId: string): Refusal | null {
  return onLeg(state, legId, (call, leg) => {
    if (leg.party === 'contact') return contactLifted(state, call);
    if (leg.party === 'outside') return outsideAnswered(state, call, leg);
    return call.direction === 'line' ? lineLifted(state, call, leg) : agentLifted(state, call, leg);
  });
}

export function legFailed(state: State, legId: string, cause: LegFailure): Refusal | null {
  return onLeg(state, legId, (call, leg) => {
    if (leg.party === 'contact') return contactFailed(state, call, cause);
    if (leg.party === 'outside') return outsideFailed(state, call, leg, cause);
    if (call.direction !== 'line') return agentLegFailed(state, call, leg, cause);
    if (leg.state === 'connected') return 'legNotRinging';
    lineFailed(state, call, cause);
    return null;
  });
}

export function legEnded(state: State, legId: string): Refusal | null {
  return onLeg(state, legId, (call, leg) => {
    if (leg.party === 'contact') return contactHangsUp(state, call);
    if (leg.party === 'outside') return outsideEnded(state, call, leg);
    if (leg.party === 'caller') return 'legNotConnected';
    if (call.direction === 'line') {
      if (leg.state !== 'connected') lineFailed(state, call, 'declined');
      else closeLine(state, call.talkingAgent!, 'agent');
      return null;
    }
    if (leg.state === 'confirming') return agentLegFailed(state, call, leg, 'declined');
    if (leg.state === 'ringing') return 'legNotConnected';
    agentSideEnded(state, call, leg);
    return null;
  });
}

export function keyPressed(state: State, legId: string, key: string): Refusal | null {
  return onLeg(state, legId, (call, leg) => {
    if (leg.party === 'contact') return contactPressed(state, call, key);
    if (leg.party === 'caller') return roomKey(state, call, key);
    if (leg.state !== 'confirming' || key !== acceptKey) return 'notExpected';
    if (call.direction === 'line') holdLine(state, call, leg);
    else takeAnswer(state, call, leg, call.ringingAgent!);
    return null;
  });
}

export function contactGreeted(state: State, legId: string, by: 'person' | 'machine'): Refusal | null {
  return onLeg(state, legId, (call, leg) =>
    leg.party === 'contact' ? greetingEnded(state, call, by) : 'notExpected',
  );
}

/** A phone rang as long as it was to, or was lifted and the key not pressed. */
export function rangOut(state: State, call: Call): void {
  call.ringTimer = null;
  if (call.stage === 'dialling') return contactRangOut(state, call);
  if (call.stage === 'forwarding') return outsideRangOut(state, call);
  if (call.direction === 'line') return lineFailed(state, call, 'noAnswer');
  agentRangOut(state, call, ringingLeg(call).state === 'confirming' ? 'notAccepted' : 'noAnswer');
}

function onLeg(state: State, legId: string, act: (call: Call, leg: Leg) => Refusal | null): Refusal | null {
  const found = findLeg(state, legId);
  return found === null ? 'unknownLeg' : act(found.call, found.leg);
}

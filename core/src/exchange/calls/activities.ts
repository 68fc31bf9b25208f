import type { Spoken } from '../../plan/step-kind.ts';
import type { LegFailure } from '../../story/facts.ts';
import { heldLineEnded, lineAccepted, lineFailed, lineLifted } from '../agents/persistent-line.ts';
import type { Refusal } from '../kernel/events.ts';
import type { State } from '../kernel/state.ts';
import { findLeg, type Leg } from '../media/leg.ts';
import {
  agentLegEnded,
  agentLegFailed,
  agentLifted,
  agentPressed,
  callerPressedWhileRinging,
  offerRanOut,
} from '../offers/outcome.ts';
import {
  contactFailed,
  contactHangsUp,
  contactLifted,
  contactPressed,
  contactRangOut,
  greetingEnded,
} from '../outbound/contacts.ts';
import { talkBrokeOff, talkEnded } from '../route/after-talk.ts';
import { stepKeyPressed, stepSpoken, stepTimedOut } from '../route/run.ts';
import { ringAgain, waitingKeyPressed } from '../queues/waiting.ts';
import { consultationLegEnded } from '../transfer/consultation.ts';
import type { ActivityKind } from './activity.ts';
import type { Call } from './call.ts';
import { outsideAnswered, outsideEnded, outsideFailed, outsideRangOut } from './dial-out.ts';
import { endCall } from './ending.ts';
import { callerHangsUp } from './hang-up.ts';
import {
  callBackAnswered,
  callBackLegEnded,
  callBackLegFailed,
  callBackRangOut,
} from '../queues/calling-back.ts';

/** What an activity does about what happens on a leg of its call. What it does not expect is refused. */
interface ActivityHandlers {
  answered?(state: State, call: Call, leg: Leg): Refusal | null;
  failed?(state: State, call: Call, leg: Leg, cause: LegFailure): Refusal | null;
  /** A leg of our side, or of who was called, hung up; callers and contacts are heard before that. */
  ended?(state: State, call: Call, leg: Leg): Refusal | null;
  /** A key pressed on any leg but a contact's. */
  key?(state: State, call: Call, leg: Leg, key: string): Refusal | null;
  /** The caller said something, or wrote it. */
  spoken?(state: State, call: Call, spoken: Spoken): Refusal | null;
  greeted?(state: State, call: Call, by: 'person' | 'machine'): Refusal | null;
  timedOut?(state: State, call: Call): void;
}

/** What happens on a leg goes to what its call rests in; nobody else asks for that. */
const handlers: Record<ActivityKind, ActivityHandlers> = {
  step: {
    key: (state, call, leg, key) =>
      leg.party === 'caller' ? stepKeyPressed(state, call, key) : 'notExpected',
    spoken: stepSpoken,
    timedOut: stepTimedOut,
  },
  waiting: {
    key: (state, call, leg, key) =>
      leg.party === 'caller' ? waitingKeyPressed(state, call, key) : 'notExpected',
    timedOut: ringAgain,
  },
  offered: {
    answered: agentLifted,
    failed: agentLegFailed,
    ended: agentLegEnded,
    key: (state, call, leg, key) =>
      (leg.party === 'caller' ? callerPressedWhileRinging : agentPressed)(state, call, leg, key),
    timedOut: offerRanOut,
  },
  bridged: { ended: talkEnded, failed: talkBrokeOff },
  consulting: {
    answered: agentLifted,
    failed: agentLegFailed,
    ended: consultationLegEnded,
    key: agentPressed,
    timedOut: offerRanOut,
  },
  recording: { timedOut: (state, call) => endCall(state, call, 'exchange', 'voicemail') },
  dialOut: {
    answered: outsideAnswered,
    failed: outsideFailed,
    ended: (state, call, leg) => outsideFailed(state, call, leg, 'unreachable'),
    timedOut: outsideRangOut,
  },
  bridgedOutside: { ended: outsideEnded },
  callingBack: {
    answered: callBackAnswered,
    failed: callBackLegFailed,
    ended: callBackLegEnded,
    timedOut: callBackRangOut,
  },
  conference: {},
  // Nothing came: it hangs up.
  receivingFax: { timedOut: (state, call) => endCall(state, call, 'exchange', 'abandoned') },
  contactRings: {
    answered: contactLifted,
    failed: (state, call, _leg, cause) => contactFailed(state, call, cause),
    timedOut: contactRangOut,
  },
  greeting: { greeted: greetingEnded },
  announcement: { timedOut: (state, call) => endCall(state, call, 'exchange', 'abandoned') },
  lineOffered: {
    answered: lineLifted,
    failed: (state, call, _leg, cause) => lineFailed(state, call, cause),
    ended: (state, call) => lineFailed(state, call, 'declined'),
    key: lineAccepted,
    timedOut: (state, call) => void lineFailed(state, call, 'noAnswer'),
  },
  lineHeld: { ended: heldLineEnded },
  ended: {},
};

export function legAnswered(state: State, legId: string): Refusal | null {
  return onLeg(state, legId, (call, leg) =>
    (handlers[call.activity.kind].answered ?? refuse('legNotRinging'))(state, call, leg),
  );
}

export function legFailed(state: State, legId: string, cause: LegFailure): Refusal | null {
  return onLeg(state, legId, (call, leg) =>
    (handlers[call.activity.kind].failed ?? refuse('legNotRinging'))(state, call, leg, cause),
  );
}

export function legEnded(state: State, legId: string): Refusal | null {
  return onLeg(state, legId, (call, leg) => {
    if (leg.party === 'contact') return contactHangsUp(state, call);
    // Of who was called back, as of who came in: it is the caller who hangs up.
    if (leg.party === 'caller' && call.activity.kind !== 'callingBack')
      return call.callBack === null ? 'legNotConnected' : callerHangsUp(state, call.id);
    return (handlers[call.activity.kind].ended ?? refuse('legNotConnected'))(state, call, leg);
  });
}

export function keyPressed(state: State, legId: string, key: string): Refusal | null {
  return onLeg(state, legId, (call, leg) => {
    if (leg.party === 'contact') return contactPressed(state, call, key);
    return (handlers[call.activity.kind].key ?? refuse('notExpected'))(state, call, leg, key);
  });
}

export function spoken(state: State, legId: string, what: Spoken): Refusal | null {
  return onLeg(state, legId, (call, leg) =>
    leg.party === 'caller'
      ? (handlers[call.activity.kind].spoken ?? refuse('notExpected'))(state, call, what)
      : 'notExpected',
  );
}

export function contactGreeted(state: State, legId: string, by: 'person' | 'machine'): Refusal | null {
  return onLeg(state, legId, (call, leg) =>
    leg.party === 'contact'
      ? (handlers[call.activity.kind].greeted ?? refuse('notExpected'))(state, call, by)
      : 'notExpected',
  );
}

/** What the call rests in lasted as long as it was to. */
export function activityTimedOut(state: State, call: Call): void {
  handlers[call.activity.kind].timedOut?.(state, call);
}

function refuse(refusal: Refusal): () => Refusal {
  return () => refusal;
}

function onLeg(state: State, legId: string, act: (call: Call, leg: Leg) => Refusal | null): Refusal | null {
  const found = findLeg(state, legId);
  return found === null ? 'unknownLeg' : act(found.call, found.leg);
}

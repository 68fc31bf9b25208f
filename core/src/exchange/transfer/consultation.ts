import { reasonsAgainstDirect } from '../../distribute/eligibility.ts';
import { planTo } from '../../plan/compile.ts';
import type { Agent } from '../agents/agent.ts';
import { reindexAgent } from '../agents/reindex.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { callerBack } from '../calls/caller-back.ts';
import { endCall, freeAgent, leaveCall } from '../calls/ending.ts';
import type { Refusal } from '../kernel/events.ts';
import { note, play, release } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { connect, holdCaller, resumeCaller } from '../media/hearing.ts';
import { beginRecording } from '../media/recording.ts';
import { dropLeg } from '../media/channels.ts';
import { type Leg, legOf } from '../media/leg.ts';
import { abandonOffer, agentLegEnded } from '../offers/outcome.ts';
import { offerTo } from '../offers/ringing.ts';
import { talkingWithCaller } from './talking.ts';

/**
 * The caller is held, a colleague is rung from the same call and hears who comes. Whoever consults counts as talking with
 * the caller until the caller is put through.
 */
export function consult(state: State, legId: string, personId: string): Refusal | null {
  const found = talkingWithCaller(state, legId);
  if (typeof found === 'string') return found;
  const { call, agent } = found;
  const colleague = state.agents.get(personId);
  if (colleague === undefined || colleague.retired) return 'unknownPerson';
  if (colleague === agent || call.activity.kind !== 'bridged') return 'notExpected';
  if (reasonsAgainstDirect(colleague).length > 0) return 'cannotBeRung';
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'consultationBegun',
    personId: agent.person.id,
    name: agent.person.name,
    toId: colleague.person.id,
    toName: colleague.person.name,
  });
  holdCaller(state, call);
  begin(call, call.activity.since, { kind: 'consulting', consulted: colleague, offer: null });
  call.bridge = null;
  play(state, call, legOf(call, agent).id, 'ringing');
  offerTo(state, call, [colleague], colleague.person.ringSeconds);
  return null;
}

/** Who consults has the caller back; the colleague's phone stops, or they are let go. */
export function retrieveCaller(state: State, legId: string): Refusal | null {
  const found = talkingWithCaller(state, legId);
  if (typeof found === 'string') return found;
  const { call } = found;
  const { activity } = call;
  if (activity.kind !== 'consulting') return 'notExpected';
  if (activity.offer !== null) abandonOffer(state, call, 'abandoned');
  else {
    const leg = legOf(call, activity.consulted);
    release(state, call, leg.id, 'normal');
    consultedLeaves(state, call, leg, activity.consulted);
  }
  callerBack(state, call, 'retrieved');
  return null;
}

/** A leg of a consultation hung up, or its device was lost: the consultant's puts the caller through. */
export function consultationLegEnded(state: State, call: Call, leg: Leg): Refusal | null {
  const { activity } = call;
  if (activity.kind !== 'consulting') return 'legNotConnected';
  if (leg.personId !== activity.consulted.person.id) {
    completeTransfer(state, call);
    return null;
  }
  if (activity.offer !== null) return agentLegEnded(state, call, leg);
  consultedLeaves(state, call, leg, activity.consulted);
  callerBack(state, call, 'hungUp');
  return null;
}

/** The agent's side of a talk ended, whatever became of it meanwhile. */
export function agentSideEnded(state: State, call: Call, leg: Leg): void {
  if (call.activity.kind === 'consulting') consultationLegEnded(state, call, leg);
  else endCall(state, call, 'agent', 'answered');
}

/** The caller is the colleague's: at once when they have lifted, else their phone rings on for the caller. */
export function completeTransfer(state: State, call: Call): void {
  const { activity } = call;
  if (activity.kind !== 'consulting') throw new Error(`call ${call.id} has nobody consulted`);
  const consultant = call.talkingAgent!;
  const { consulted, offer } = activity;
  const destination = { kind: 'person', id: consulted.person.id } as const;
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'transferred',
    personId: consultant.person.id,
    name: consultant.person.name,
    to: consulted.person.name,
    toId: consulted.person.id,
    talkedMs: state.now - activity.since,
    attended: offer === null,
  });
  call.lastDestination = destination;
  leaveCall(state, call, legOf(call, consultant), consultant);
  call.queue = null;
  // From here on the call is meant for them: what they set for when nobody lifts holds for it.
  const plan = planTo(destination);
  call.route = [{ plan, stepId: plan.start, memory: null }];
  call.noAnswerPath = { personId: consulted.person.id, rung: [], declined: false };
  resumeCaller(state, call);
  if (offer === null) {
    begin(call, state.now, { kind: 'bridged' });
    call.talkingAgent = consulted;
    connect(state, call, call.legs[0]!, legOf(call, consulted));
    beginRecording(state, call, consulted);
  } else {
    begin(call, state.now, { kind: 'offered', offer });
    play(state, call, call.legs[0]!.id, 'ringing');
  }
  reindexAgent(state, consulted);
}

function consultedLeaves(state: State, call: Call, leg: Leg, colleague: Agent): void {
  dropLeg(state, call, leg);
  freeAgent(state, colleague, call, 0);
}

import { reasonsAgainstDirect } from '../distribute/eligibility.ts';
import { refreshAgent } from './agents.ts';
import { callerBack, connect, holdCaller, legOf, takeOffHold } from './answering.ts';
import { beginChain } from './chain.ts';
import { endCall, freeAgent, leaveCall, releaseLeg } from './ending.ts';
import type { Refusal } from './events.ts';
import { abandonOffer, findLeg } from './offers.ts';
import { ringAgent } from './ringing.ts';
import type { Leg } from './call-parts.ts';
import type { Agent, Call, State } from './state.ts';
import { dropLeg } from './trunks.ts';

/**
 * Handing a caller over with an announcement: the caller is held, a colleague is rung from the same call and hears who
 * comes. Whoever announces counts as talking with the caller until the caller is put through.
 */
export function announce(state: State, legId: string, personId: string): Refusal | null {
  const found = talkingWithCaller(state, legId);
  if (typeof found === 'string') return found;
  const { call, agent } = found;
  const colleague = state.agents.get(personId);
  if (colleague === undefined || colleague.retired) return 'unknownPerson';
  if (colleague === agent || call.announcedTo !== null) return 'notExpected';
  if (reasonsAgainstDirect(colleague).length > 0) return 'cannotBeRung';
  if (state.out.detail !== 'none')
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'announces',
      personId: agent.person.id,
      name: agent.person.name,
      toId: colleague.person.id,
      toName: colleague.person.name,
    });
  holdCaller(state, call);
  call.announcedTo = colleague;
  call.bridge = null;
  state.out.effects.push({
    kind: 'play',
    callId: call.id,
    leg: legOf(call, agent).id,
    prompt: 'ringing',
  });
  ringAgent(state, colleague, call, colleague.person.ringSeconds);
  return null;
}

/** Who announced has the caller back; the colleague's phone stops, or they are let go. */
export function takeCallerBack(state: State, legId: string): Refusal | null {
  const found = talkingWithCaller(state, legId);
  if (typeof found === 'string') return found;
  const { call } = found;
  const colleague = call.announcedTo;
  if (colleague === null) return 'notExpected';
  if (call.ringingAgent !== null) abandonOffer(state, call, 'abandoned');
  else {
    const leg = legOf(call, colleague);
    releaseLeg(state, call, leg.id, 'normal');
    colleagueLeaves(state, call, leg, colleague);
  }
  callerBack(state, call, 'takenBack');
  return null;
}

/** The agent's side of a call hung up, or its device was lost. */
export function agentSideEnded(state: State, call: Call, leg: Leg): void {
  const colleague = call.announcedTo;
  if (colleague === null) return endCall(state, call, 'agent', 'answered');
  if (leg.personId !== colleague.person.id) return putThrough(state, call);
  colleagueLeaves(state, call, leg, colleague);
  callerBack(state, call, 'hungUp');
}

/** The caller is the colleague's: at once when they have lifted, else their phone rings on for the caller. */
export function putThrough(state: State, call: Call): void {
  const teller = call.talkingAgent!;
  const colleague = call.announcedTo!;
  const lifted = call.ringingAgent === null;
  if (state.out.detail !== 'none')
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'handedOver',
      personId: teller.person.id,
      name: teller.person.name,
      to: colleague.person.name,
      toId: colleague.person.id,
      talkedMs: state.now - call.stageSince,
      announced: lifted,
    });
  call.announcedTo = null;
  call.lastDestination = { kind: 'person', id: colleague.person.id };
  leaveCall(state, call, legOf(call, teller), teller);
  call.queue = null;
  beginChain(call, colleague);
  takeOffHold(state, call);
  if (lifted) {
    call.stage = 'talking';
    call.talkingAgent = colleague;
    connect(state, call, call.legs[0]!, legOf(call, colleague));
  } else {
    call.stage = 'ringing';
    state.out.effects.push({ kind: 'play', callId: call.id, leg: call.legs[0]!.id, prompt: 'ringing' });
  }
  refreshAgent(state, colleague);
}

function colleagueLeaves(state: State, call: Call, leg: Leg, colleague: Agent): void {
  dropLeg(state, call, leg);
  freeAgent(state, colleague, call, 0);
}

/** The call on whose leg somebody talks with a caller; or why that is not so. Contacts are owed who they were called for. */
export function talkingWithCaller(
  state: State,
  legId: string,
): { call: Call; leg: Leg; agent: Agent } | Refusal {
  const found = findLeg(state, legId);
  if (found === null) return 'unknownLeg';
  const { call, leg } = found;
  const agent = call.talkingAgent;
  if (agent === null || leg.personId !== agent.person.id || leg.state !== 'connected')
    return 'legNotConnected';
  return call.direction === 'inbound' ? { call, leg, agent } : 'notExpected';
}

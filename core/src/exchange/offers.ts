import { beginRest, markAway, refreshAgent } from './agents.ts';
import { askToAccept, callerBack, takeAnswer } from './answering.ts';
import { nextInChain } from './chain.ts';
import type { StopRinging } from './effects.ts';
import type { LegFailure, Refusal } from './events.ts';
import { endOffer, overflow, waitAgain } from './queueing.ts';
import type { NotTaken } from './records.ts';
import { endRinging, ringingLeg } from './ringing.ts';
import type { Leg } from './call-parts.ts';
import type { Agent, Call, State } from './state.ts';

/** An agent's phone was lifted. At an outside number the call is theirs only once they press the key. */
export function agentLifted(state: State, call: Call, leg: Leg): Refusal | null {
  const agent = call.ringingAgent;
  if (leg.state !== 'ringing' || agent === null) return 'legNotRinging';
  if (leg.trunkId === null) {
    takeAnswer(state, call, leg, agent);
    return null;
  }
  askToAccept(state, call, leg, agent);
  return null;
}

/** The agent's phone did not take the call, as its device or its provider says. */
export function agentLegFailed(state: State, call: Call, leg: Leg, cause: LegFailure): Refusal | null {
  if (leg.state !== 'ringing' && leg.state !== 'confirming') return 'legNotRinging';
  offerFailed(state, call, leg.state === 'confirming' ? 'notAccepted' : cause);
  return null;
}

export function agentRangOut(state: State, call: Call, reason: 'noAnswer' | 'notAccepted'): void {
  stopRinging(state, call, reason);
  offerFailed(state, call, reason);
}

/** Stops an offer because the agent left; the caller goes on to the next. */
export function leaveRinging(
  state: State,
  agent: Agent,
  why: 'signedOut' | 'setAway' | 'personRetired' | 'callsForHelp',
): void {
  const call = agent.ringing;
  if (call === null || call.direction === 'line') return;
  stopRinging(state, call, why);
  offerFailed(state, call, why);
}

function stopRinging(state: State, call: Call, why: StopRinging): void {
  state.out.effects.push({ kind: 'stopRinging', callId: call.id, leg: ringingLeg(call).id, why });
}

/** The call goes away while a phone rings for it: the agent is free again, without rest or blame. */
export function abandonOffer(state: State, call: Call, why: StopRinging): void {
  const agent = call.ringingAgent;
  if (agent === null) return;
  stopRinging(state, call, why);
  if (call.queue !== null && call.announcedTo === null) endOffer(call);
  call.announcedTo = null;
  endRinging(state, call, agent);
  refreshAgent(state, agent);
  state.todo.push(agent);
}

function offerFailed(state: State, call: Call, reason: NotTaken): void {
  const agent = call.ringingAgent!;
  const rangMs = state.now - ringingLeg(call).since;
  const chosen = call.queue !== null && call.announcedTo === null && !call.pickedUp;
  endRinging(state, call, agent);
  const announced = call.announcedTo !== null;
  const setsAway = chosen && rest(state, agent, reason);
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'notTaken',
      personId: agent.person.id,
      name: agent.person.name,
      reason,
      rangMs,
      restsUntil: agent.restsUntil > state.now ? agent.restsUntil : null,
      setAway: setsAway,
    });
  }
  refreshAgent(state, agent);
  const queue = call.queue;
  if (announced) callerBack(state, call, 'notTaken');
  else if (queue === null) {
    if (call.chain!.personId === agent.person.id && reason === 'declined') call.chain!.declined = true;
    nextInChain(state, call);
  } else {
    call.tried.push(agent.person.id);
    endOffer(call);
    if (call.direction === 'outbound') waitAgain(state, call);
    else if (queue.retired) overflow(state, call, 'queueRetired');
    else if (call.overdue) overflow(state, call, 'waitedTooLong');
    else if (queue.signedIn === 0 && queue.item.whenNobody !== null) overflow(state, call, 'nobodySignedIn');
    else waitAgain(state, call);
  }
  state.todo.push(agent);
}

/** The rest after an offer that was not taken. True when it sets the agent away. */
function rest(state: State, agent: Agent, reason: NotTaken): boolean {
  const settings = state.settings;
  switch (reason) {
    case 'noAnswer':
    case 'notAccepted':
      agent.misses++;
      beginRest(state, agent, settings.restAfterNoAnswerSeconds);
      if (agent.misses < settings.missesBeforeAway) return false;
      agent.misses = 0;
      markAway(state, agent, 'not answering');
      return true;
    case 'declined':
    case 'busy':
    case 'unreachable':
    case 'refused':
    case 'noRoute':
    case 'congestion':
      beginRest(state, agent, settings.restAfterDeclineSeconds);
      return false;
    case 'signedOut':
    case 'setAway':
    case 'personRetired':
    case 'callsForHelp':
      return false;
  }
}

export function findLeg(state: State, legId: string): { call: Call; leg: Leg } | null {
  const call = state.calls.get(legId.slice(0, legId.lastIndexOf('.')));
  const leg = call?.legs.find((each) => each.id === legId);
  return call === undefined || leg === undefined ? null : { call, leg };
}

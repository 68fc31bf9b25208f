import { refreshAgent, ringingPhone } from './agents.ts';
import { takeAnswer } from './answering.ts';
import type { Leg } from './call-parts.ts';
import type { Agent, Call, Phone, State } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';
import { digitsFor, dropLeg, seizeChannel } from './trunks.ts';

/**
 * Rings the agent for `call`: their phone, their outside number, or at once over a line held open. `on` names the phone of
 * theirs that rings; it lifts by itself when they said on it that they take the call.
 */
export function ringAgent(
  state: State,
  agent: Agent,
  call: Call,
  ringSeconds: number,
  on: { phone: Phone; liftsByItself: boolean } | null = null,
): void {
  const leg: Leg = {
    id: `${call.id}.${++call.legCount}`,
    party: 'agent',
    personId: agent.person.id,
    phoneId: null,
    trunkId: null,
    over: null,
    state: 'ringing',
    since: state.now,
  };
  call.legs.push(leg);
  // While a caller is announced, their own talk goes on.
  if (call.announcedTo === null) {
    call.stage = 'ringing';
    call.stageSince = state.now;
  }
  call.offers++;
  call.ringingAgent = agent;
  agent.ringing = call;
  const queueId = call.queue === null ? null : call.queue.item.id;
  if (agent.line !== null && on === null) {
    leg.over = agent.line.legs[0]!.id;
    leg.phoneId = agent.line.legs[0]!.phoneId;
    state.out.effects.push({ kind: 'takeLine', callId: call.id, leg: leg.id, line: leg.over, queueId });
    return takeAnswer(state, call, leg, agent);
  }
  const phone = on?.phone ?? ringingPhone(state, agent);
  if (phone === undefined) throw new Error('ringAgent: choose only agents with a phone that can be reached');
  leg.phoneId = phone.item.id;
  if (call.chain?.personId === agent.person.id) call.chain.rung.push(phone.item.id);
  call.ringTimer = setTimer(state, 'ring', call, state.now + ringSeconds * 1000);
  if (phone.item.kind === 'outside') dialOutside(state, call, leg, phone, ringSeconds);
  else {
    state.out.effects.push({
      kind: 'ring',
      callId: call.id,
      leg: leg.id,
      phoneId: phone.item.id,
      personId: agent.person.id,
      from: call.direction === 'outbound' ? call.to : call.from,
      callerName: call.callerName,
      to: call.to,
      queueId,
      ringSeconds,
      answerBySelf: call.direction === 'outbound' || on?.liftsByItself === true || agent.person.answerBySelf,
    });
  }
  refreshAgent(state, agent);
}

/** Dials the outside number of an agent on behalf of a call. */
export function dialOutside(state: State, call: Call, leg: Leg, phone: Phone, ringSeconds: number): void {
  const trunk = state.trunks.get(phone.item.trunkId!)!;
  seizeChannel(state, trunk, leg);
  state.out.effects.push({
    kind: 'dial',
    callId: call.id,
    leg: leg.id,
    trunkId: trunk.item.id,
    digits: digitsFor(state, phone.item.e164!, { kind: 'person', teamId: null }),
    callerId: trunk.item.callerId ?? shownTo(state, call),
    ringSeconds,
    party: 'agent',
    personId: phone.item.personId,
    queueId: call.queue === null ? null : call.queue.item.id,
    contact: null,
  });
}

/** Only a number held may be shown: the one that was dialled, or the campaign's own. */
function shownTo(state: State, call: Call): string {
  if (call.direction === 'outbound') return call.from;
  return state.numberByDigits.has(call.to) ? call.to : '';
}

/** The phone that rang for this call, or was lifted and not accepted, has nothing to do with it any more. */
export function endRinging(state: State, call: Call, agent: Agent): void {
  dropLeg(state, call, ringingLeg(call));
  call.ringTimer = clearTimer(state, call.ringTimer);
  call.ringingAgent = null;
  call.pickedUp = false;
  agent.ringing = null;
}

export function ringingLeg(call: Call): Leg {
  const leg = call.legs.find(
    (each) => (each.state === 'ringing' || each.state === 'confirming') && each.party === 'agent',
  );
  if (leg === undefined) throw new Error(`call ${call.id} has no ringing leg`);
  return leg;
}

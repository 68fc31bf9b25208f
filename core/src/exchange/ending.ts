import { beginWrapUp, refreshAgent, refreshPhoneFacts } from './agents.ts';
import type { CallFacts, CallResult, EndedBy, ReleaseCause } from './effects.ts';
import type { Refusal } from './events.ts';
import { land } from './in-air.ts';
import { resumeHeld } from './answering.ts';
import { abandonOffer } from './offers.ts';
import { leaveQueue } from './queueing.ts';
import type { Leg } from './call-parts.ts';
import type { Agent, Call, State } from './state.ts';
import { clearTimer } from './timers.ts';
import { dropLeg, freeChannel, wayOf } from './trunks.ts';

export function callerHangsUp(state: State, callId: string): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined || (call.direction !== 'inbound' && call.direction !== 'dialled'))
    return 'unknownCall';
  endCall(state, call, 'caller', resultWhenLeft(state, call));
  return null;
}

export function messageRanOut(state: State, call: Call): void {
  call.messageTimer = null;
  // Nobody typed the PIN: they are told and released. Nothing came at a fax box: it hangs up.
  if (call.stage === 'roomDoor') return void state.todo.push({ send: call, to: { kind: 'end' } });
  if (call.stage === 'fax') return endCall(state, call, 'exchange', 'abandoned');
  endCall(state, call, 'exchange', call.stage === 'announcement' ? 'abandoned' : 'voicemail');
}

function resultWhenLeft(state: State, call: Call): CallResult {
  if (call.stage === 'talking') return 'answered';
  // Handed over, and gone before the next one answered.
  if (call.handedOverBy !== null && ['waiting', 'ringing', 'forwarding'].includes(call.stage))
    return 'answered';
  if (call.stage === 'inRoom') return 'conference';
  if (call.stage === 'forwarded') return call.direction === 'dialled' ? 'answered' : 'forwarded';
  return call.stage === 'voicemail' && state.now > call.messageFrom ? 'voicemail' : 'abandoned';
}

/** Ends the call, once: frees everybody on it, releases its legs and channels, and states the facts. */
export function endCall(state: State, call: Call, by: EndedBy, result: CallResult): void {
  if (call.stage === 'ended') throw new Error(`call ${call.id} ended twice`);
  abandonOffer(state, call, by === 'caller' || by === 'contact' ? 'callerHungUp' : 'abandoned');
  leaveQueue(state, call);
  land(state, call);
  call.messageTimer = clearTimer(state, call.messageTimer);
  call.ringTimer = clearTimer(state, call.ringTimer);
  call.connectByTimer = clearTimer(state, call.connectByTimer);
  const agent = call.talkingAgent;
  const messageMs = result === 'voicemail' ? state.now - call.messageFrom : null;
  const talks = ['talking', 'forwarded', 'held', 'inRoom'].includes(call.stage);
  const talkedMs = call.talkedMs + (talks && call.answeredAt !== null ? state.now - call.stageSince : 0);
  const wrapUpSeconds = wrapUpOf(agent, call);
  const trunkId = call.legs.find((leg) => leg.trunkId !== null)?.trunkId ?? null;
  const ways = [...call.ways, ...call.legs.flatMap((leg) => wayOf(state, call, leg))];
  for (const leg of call.legs) {
    const gone = (leg.party === 'outside' ? 'contact' : leg.party) === by;
    if (!gone) releaseLeg(state, call, leg.id, releaseCause(by, result));
    freeChannel(state, leg);
  }
  const waitedMs = waited(state, call);
  call.stage = 'ended';
  call.legs = [];
  call.bridge = null;
  state.calls.delete(call.id);
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'ended',
      by,
      result,
      talkedMs,
      messageMs,
      wrapUpSeconds,
    });
  }
  const end = { endedBy: by, result, waitedMs, talkedMs, messageMs, trunkId, ways };
  state.out.effects.push({ kind: 'callEnded', facts: factsOf(state, call, end) });
  if (agent !== null) freeAgent(state, agent, call, wrapUpSeconds ?? 0);
  // A colleague who only heard of the caller has nothing to wrap up.
  const told = call.announcedTo;
  if (told !== null && told.calls.includes(call)) freeAgent(state, told, call, 0);
}

/** What is kept of a call that ends now. */
export function factsOf(
  state: State,
  call: Call,
  end: Pick<CallFacts, 'endedBy' | 'result' | 'waitedMs' | 'talkedMs' | 'messageMs' | 'trunkId' | 'ways'>,
): CallFacts {
  const agent = call.talkingAgent;
  return {
    callId: call.id,
    direction: call.direction,
    to: call.to,
    from: call.from,
    callerName: call.callerName,
    numberId: call.numberId,
    queueId: call.lastQueueId,
    personId: agent === null ? call.handedOverBy : agent.person.id,
    arrivedAt: call.arrivedAt,
    answeredAt: call.answeredAt,
    endedAt: state.now,
    voicemailBoxId: end.result === 'voicemail' ? call.voicemailBoxId : null,
    offers: call.offers,
    lastDestination: call.lastDestination,
    standIn: call.standIn,
    campaignId: call.campaign === null ? null : call.campaign.item.id,
    contactId: call.contact === null ? null : call.contact.contactId,
    attempt: call.contact === null ? 0 : call.contact.attempt,
    recordId: call.record === null ? null : call.record.id,
    sourceId: call.sourceId,
    ...end,
  };
}

/**
 * Of a caller: from arrival to the answer, the voicemail greeting, or the end. Of a contact: from the end of their
 * greeting to the agent, the announcement, or the end; 0 when they never lifted.
 */
function waited(state: State, call: Call): number {
  if (call.direction === 'line') return 0;
  if (call.direction === 'outbound') {
    if (call.greetedAt === null) return 0;
    return (
      (call.answeredAt ?? (call.stage === 'announcement' ? call.stageSince : state.now)) - call.greetedAt
    );
  }
  return (call.answeredAt ?? (call.stage === 'voicemail' ? call.stageSince : state.now)) - call.arrivedAt;
}

function wrapUpOf(agent: Agent | null, call: Call): number | null {
  if (agent === null || call.queue === null) return null;
  return agent.person.wrapUpSeconds ?? call.queue.item.wrapUpSeconds;
}

/** The agent's part in a call that goes on without them. Their leg has hung up or was released. */
export function leaveCall(state: State, call: Call, leg: Leg, agent: Agent): void {
  const seconds = wrapUpOf(agent, call);
  call.talkedMs += state.now - call.stageSince;
  // What was talked is counted; what comes next begins now.
  call.stage = 'routing';
  call.stageSince = state.now;
  call.handedOverBy = agent.person.id;
  call.talkingAgent = null;
  call.bridge = null;
  dropLeg(state, call, leg);
  freeAgent(state, agent, call, seconds ?? 0);
}

export function freeAgent(state: State, agent: Agent, call: Call, wrapUpSeconds: number): void {
  if (agent.line === call) {
    agent.line = null;
    refreshPhoneFacts(state, agent);
    refreshAgent(state, agent);
    return;
  }
  agent.calls.splice(agent.calls.indexOf(call), 1);
  agent.idleSince = state.now;
  if (agent.calls.length > 0) resumeHeld(state, agent);
  if (agent.retired) {
    if (agent.calls.length === 0) forgetAgent(state, agent);
    return;
  }
  beginWrapUp(state, agent, wrapUpSeconds);
  refreshAgent(state, agent);
  state.todo.push(agent);
}

/** Somebody who is no longer in the set-up and has nothing left to do. */
export function forgetAgent(state: State, agent: Agent): void {
  state.agents.delete(agent.person.id);
  for (const trunk of state.trunks.values()) trunk.agents.delete(agent);
}

export function releaseLeg(state: State, call: Call, leg: string, cause: ReleaseCause): void {
  state.out.effects.push({ kind: 'release', callId: call.id, leg, cause });
}

function releaseCause(by: EndedBy, result: CallResult): ReleaseCause {
  if (by === 'caller' || by === 'contact') return 'callerGone';
  if (by === 'agent') return 'agentGone';
  switch (result) {
    case 'nowhere':
      return 'unallocatedNumber';
    case 'turnedAway':
      return 'turnedAway';
    case 'noAnswer':
      return 'noAnswer';
    case 'optedOut':
      return 'optedOut';
    default:
      return 'normal';
  }
}

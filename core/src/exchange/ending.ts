import { beginWrapUp, refreshAgent } from './agents.ts';
import type { CallResult, ReleaseCause } from './effects.ts';
import type { Refusal } from './events.ts';
import { abandonOffer, findLeg, resumeHeld } from './offers.ts';
import { leaveQueue } from './queueing.ts';
import { type Agent, type Call, type State, clearTimer, releaseLeg } from './state.ts';

export function callerHangsUp(state: State, callId: string): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined) return 'unknownCall';
  endCall(state, call, 'caller', resultWhenLeft(state, call));
  return null;
}

export function agentHangsUp(state: State, legId: string): Refusal | null {
  const found = findLeg(state, legId);
  if (found === null) return 'unknownLeg';
  const { call, leg } = found;
  if (leg.party !== 'agent' || leg.state === 'ringing') return 'legNotConnected';
  endCall(state, call, 'agent', 'answered');
  return null;
}

export function messageRanOut(state: State, call: Call): void {
  call.messageTimer = null;
  endCall(state, call, 'exchange', 'voicemail');
}

function resultWhenLeft(state: State, call: Call): CallResult {
  if (call.stage === 'talking') return 'answered';
  return call.stage === 'voicemail' && state.now > call.messageFrom ? 'voicemail' : 'abandoned';
}

/** Ends the call, once: frees everybody on it, releases its legs, and states the facts. */
export function endCall(
  state: State,
  call: Call,
  by: 'caller' | 'agent' | 'exchange',
  result: CallResult,
): void {
  if (call.stage === 'ended') throw new Error(`call ${call.id} ended twice`);
  const rung = call.ringingAgent;
  abandonOffer(state, call);
  leaveQueue(state, call);
  call.messageTimer = clearTimer(state, call.messageTimer);
  const agent = call.talkingAgent;
  const messageMs = result === 'voicemail' ? state.now - call.messageFrom : null;
  const talkedMs = agent === null ? 0 : state.now - call.answeredAt!;
  const waitEnds = call.answeredAt ?? (call.stage === 'voicemail' ? call.stageSince : state.now);
  const wrapUpSeconds = agent === null || call.queue === null ? null : call.queue.item.wrapUpSeconds;
  for (const leg of call.legs) {
    const gone = (by === 'caller' && leg.party === 'caller') || (by === 'agent' && leg.party === 'agent');
    if (!gone) releaseLeg(state, call, leg, releaseCause(by, result));
  }
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
  state.out.effects.push({
    kind: 'callEnded',
    facts: {
      callId: call.id,
      to: call.to,
      from: call.from,
      callerName: call.callerName,
      numberId: call.numberId,
      queueId: call.lastQueueId,
      personId: agent === null ? null : agent.person.id,
      result,
      endedBy: by,
      arrivedAt: call.arrivedAt,
      answeredAt: call.answeredAt,
      endedAt: state.now,
      waitedMs: waitEnds - call.arrivedAt,
      talkedMs,
      messageMs,
      voicemailBoxId: result === 'voicemail' ? call.voicemailBoxId : null,
      offers: call.offers,
      lastDestination: call.lastDestination,
      standIn: call.standIn,
    },
  });
  if (agent !== null) freeAgent(state, agent, call, wrapUpSeconds ?? 0);
  if (rung !== null) state.todo.push(rung);
}

function freeAgent(state: State, agent: Agent, call: Call, wrapUpSeconds: number): void {
  agent.calls.splice(agent.calls.indexOf(call), 1);
  agent.idleSince = state.now;
  if (agent.calls.length > 0) resumeHeld(state, agent);
  if (agent.retired) {
    if (agent.calls.length === 0) state.agents.delete(agent.person.id);
    return;
  }
  beginWrapUp(state, agent, wrapUpSeconds);
  refreshAgent(state, agent);
  state.todo.push(agent);
}

function releaseCause(by: 'caller' | 'agent' | 'exchange', result: CallResult): ReleaseCause {
  if (by === 'caller') return 'callerGone';
  if (by === 'agent') return 'agentGone';
  if (result === 'nowhere') return 'unallocatedNumber';
  return result === 'turnedAway' ? 'turnedAway' : 'normal';
}

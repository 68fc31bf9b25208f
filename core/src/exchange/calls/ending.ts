import type { CallFacts, CallResult, EndedBy } from '../../story/facts.ts';
import type { Agent } from '../agents/agent.ts';
import { refreshPhoneFacts } from '../agents/phones.ts';
import { beginWrapUp, forgetAgent } from '../agents/presence.ts';
import { reindexAgent } from '../agents/reindex.ts';
import type { ReleaseCause } from '../kernel/effects.ts';
import { effect, note, release } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { clearTimers } from '../kernel/timers.ts';
import { serveLater } from '../kernel/later.ts';
import { resumeHeld } from '../media/hearing.ts';
import { dropLeg, freeChannel, usagesOf } from '../media/channels.ts';
import type { Leg } from '../media/leg.ts';
import { endRecording } from '../media/recording.ts';
import { keepMessage } from '../media/voicemail.ts';
import { abandonOffer } from '../offers/outcome.ts';
import { endDialling } from '../outbound/in-air.ts';
import { measure } from '../queues/load.ts';
import { leaveQueue } from '../queues/place.ts';
import type { ActivityKind } from './activity.ts';
import { callerLeft } from './caller-left.ts';
import { begin, consultedIn } from './resting.ts';
import type { Call } from './call.ts';

/** Activities in which somebody is talked with. */
const talks: ReadonlySet<ActivityKind> = new Set([
  'bridged',
  'consulting',
  'bridgedOutside',
  'lineHeld',
  'conference',
]);

/** Ends the call, once: frees everybody on it, releases its legs and channels, and states the facts. */
export function endCall(state: State, call: Call, by: EndedBy, came: CallResult): void {
  // Who was talked with was answered, whatever they met behind it.
  const result = call.talkIsOver && came !== 'lost' && came !== 'voicemail' ? 'answered' : came;
  if (call.activity.kind === 'ended') throw new Error(`call ${call.id} ended twice`);
  abandonOffer(state, call, by === 'caller' || by === 'contact' ? 'callerHungUp' : 'abandoned');
  leaveQueue(state, call);
  endDialling(state, call);
  clearTimers(state, call);
  endRecording(state, call);
  const agent = call.talkingAgent;
  const consulted = consultedIn(call);
  const wrapUpSeconds = wrapUpOf(agent, call);
  const facts = factsOf(state, call, by, result);
  measure(state, call, wrapUpSeconds);
  for (const leg of call.legs) {
    const left = (leg.party === 'outside' ? 'contact' : leg.party) === by;
    if (!left) release(state, call, leg.id, releaseCause(by, result));
    freeChannel(state, leg);
  }
  begin(call, state.now, { kind: 'ended' });
  if (facts.voicemailBoxId !== null) keepMessage(state, facts.voicemailBoxId);
  call.legs = [];
  call.bridge = null;
  state.calls.delete(call.id);
  if (call.contact !== null) call.campaign!.calling.delete(call.contact.contactId);
  const { talkedMs, messageMs } = facts;
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'ended',
    by,
    result,
    talkedMs,
    messageMs,
    wrapUpSeconds,
  });
  callerLeft(state, call);
  effect(state, { kind: 'callEnded', facts });
  if (agent !== null) freeAgent(state, agent, call, wrapUpSeconds ?? 0);
  // A colleague who only heard of the caller has nothing to wrap up.
  if (consulted?.calls.includes(call) === true) freeAgent(state, consulted, call, 0);
}

/** What is kept of a call that ends now. Clock readings that cannot be are never below 0. */
export function factsOf(state: State, call: Call, endedBy: EndedBy, result: CallResult): CallFacts {
  const { activity, talkingAgent: agent } = call;
  const talking = talks.has(activity.kind) && call.answeredAt !== null;
  const message = activity.kind === 'recording' && result === 'voicemail' ? activity : null;
  return {
    callId: call.id,
    direction: call.direction,
    to: call.to,
    from: call.from,
    callerName: call.callerName,
    numberId: call.numberId,
    queueId: call.lastQueueId,
    ringGroupId: call.lastGroupId,
    personId: agent === null ? call.transferredBy : agent.person.id,
    arrivedAt: call.arrivedAt,
    answeredAt: call.answeredAt,
    endedAt: state.now,
    voicemailBoxId: message === null ? null : message.boxId,
    offers: call.offers,
    lastDestination: call.lastDestination,
    standIn: call.standIn,
    campaignId: call.campaign === null ? null : call.campaign.item.id,
    contactId: call.contact === null ? null : call.contact.contactId,
    attempt: call.contact === null ? 0 : call.contact.attempt,
    recordId: call.record === null ? null : call.record.id,
    sourceId: call.sourceId,
    endedBy,
    result,
    waitedMs: waited(state, call),
    queuedMs: call.direction === 'inbound' ? call.queuedMs : null,
    talkedMs: call.talkedMs + (talking ? state.now - activity.since : 0),
    messageMs: message === null ? null : state.now - message.from,
    trunkId: call.legs.find((leg) => leg.trunkId !== null)?.trunkId ?? null,
    usages: usagesOf(state, call),
  };
}

/**
 * Of a caller: from arrival to the answer, the voicemail greeting, or the end. Of a contact: from the end of their
 * greeting to the agent, the announcement, or the end; 0 when they never lifted.
 */
function waited(state: State, call: Call): number {
  const { activity } = call;
  if (call.direction === 'line') return 0;
  if (call.direction === 'outbound') {
    if (call.greetedAt === null) return 0;
    const served = activity.kind === 'announcement' ? activity.since : state.now;
    return (call.answeredAt ?? served) - call.greetedAt;
  }
  return (call.answeredAt ?? (activity.kind === 'recording' ? activity.since : state.now)) - call.arrivedAt;
}

export function wrapUpOf(agent: Agent | null, call: Call): number | null {
  if (agent === null || call.queue === null) return null;
  return agent.person.wrapUpSeconds ?? call.queue.item.wrapUpSeconds;
}

/** The agent's part in a call that goes on without them. Their leg has hung up or was released. */
export function leaveCall(state: State, call: Call, leg: Leg, agent: Agent): void {
  endRecording(state, call);
  const seconds = wrapUpOf(agent, call);
  call.talkedMs += state.now - call.activity.since;
  // What was talked is counted; what comes next begins now.
  begin(call, state.now, { kind: 'step' });
  call.transferredBy = agent.person.id;
  call.talkingAgent = null;
  call.bridge = null;
  dropLeg(state, call, leg);
  freeAgent(state, agent, call, seconds ?? 0);
}

/** The agent has one call less, and may wrap up or take the next. */
export function freeAgent(state: State, agent: Agent, call: Call, wrapUpSeconds: number): void {
  if (agent.persistentLine === call) {
    agent.persistentLine = null;
    refreshPhoneFacts(state, agent);
    reindexAgent(state, agent);
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
  reindexAgent(state, agent);
  serveLater(state, agent);
}

function releaseCause(by: EndedBy, result: CallResult): ReleaseCause {
  if (by === 'caller' || by === 'contact') return 'callerGone';
  if (by === 'agent') return 'agentGone';
  switch (result) {
    case 'unroutable':
      return 'unallocatedNumber';
    case 'turnedAway':
      return 'turnedAway';
    case 'noAnswer':
      return 'noAnswer';
    case 'busy':
      return 'busy';
    case 'optedOut':
      return 'optedOut';
    default:
      return 'normal';
  }
}

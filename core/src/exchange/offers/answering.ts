import type { Agent } from '../agents/agent.ts';
import { reachedBy } from '../agents/phones.ts';
import { reindexAgent } from '../agents/reindex.ts';
import { begin, offerOf } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { answeredForGroup, groupOf } from '../groups/members.ts';
import { note, play, stopRinging } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer } from '../kernel/timers.ts';
import { serveLater } from '../kernel/later.ts';
import { connect, holdCall } from '../media/hearing.ts';
import { beginRecording } from '../media/recording.ts';
import { dropLeg } from '../media/channels.ts';
import { type Leg, legById, legOf } from '../media/leg.ts';
import { callCaller } from '../queues/call-back.ts';
import { isOffLine, leaveQueue, uncountOffer } from '../queues/place.ts';
import { countAnswered } from '../queues/waiting.ts';

/** The agent has the call: caller and agent hear each other, or, in a consultation, two colleagues. */
export function takeAnswer(state: State, call: Call, leg: Leg, agent: Agent): void {
  const { activity } = call;
  const consultant = activity.kind === 'consulting' ? call.talkingAgent : null;
  if (call.queue !== null && consultant === null) {
    uncountOffer(call);
    leaveQueue(state, call);
    countAnswered(state, call.queue, agent);
  }
  const rangMs = state.now - leg.since;
  clearTimer(state, call, 'activity');
  clearTimer(state, call, 'connectBy');
  stopTheOthers(state, call, leg);
  agent.ringing = null;
  agent.misses = 0;
  for (const other of agent.calls) holdCall(state, agent, other, call.id);
  agent.calls.push(call);
  agent.talkingSince = state.now;
  leg.state = 'connected';
  leg.since = state.now;
  if (activity.kind === 'consulting') activity.offer = null;
  else {
    call.talkingAgent = agent;
    call.overflows = 0;
    answeredForGroup(state, call, agent.person.id);
    if (isOffLine(call)) return tookCallBack(state, call, agent, rangMs);
    call.answeredAt ??= state.now;
    begin(call, state.now, { kind: 'bridged' });
  }
  connect(state, call, consultant === null ? call.legs[0]! : legOf(call, consultant), leg);
  const who = { personId: agent.person.id, name: agent.person.name };
  if (consultant !== null)
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'consulted',
      ...who,
      byName: consultant.person.name,
      rangMs,
    });
  else
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'answered',
      ...who,
      rangMs,
      waitedMs: state.now - (call.greetedAt ?? call.arrivedAt),
      phone: leg.over === null ? reachedBy(state.phones.get(leg.phoneId ?? '')) : 'openLine',
    });
  if (consultant === null) beginRecording(state, call, agent);
  reindexAgent(state, agent);
  serveLater(state, agent);
}

/** Whoever took it hears the caller's phone ring, who was promised to be called back. */
function tookCallBack(state: State, call: Call, agent: Agent, rangMs: number): void {
  const { id: personId, name } = agent.person;
  note(state, { callId: call.id, at: state.now, kind: 'callBackTaken', personId, name, rangMs });
  play(state, call, legOf(call, agent).id, 'ringing');
  callCaller(state, call);
  reindexAgent(state, agent);
}

/** The first to answer wins; nobody backs off for it. */
function stopTheOthers(state: State, call: Call, winner: Leg): void {
  for (const part of offerOf(call)?.parts ?? []) {
    if (part.legId === winner.id) continue;
    stopRinging(state, call, part.legId, 'takenElsewhere');
    dropLeg(state, call, legById(call, part.legId));
    part.agent.ringing = null;
    reindexAgent(state, part.agent);
    serveLater(state, part.agent);
  }
}

/** Somebody lifted at an outside number: the call is theirs only once they press the key. */
export function askToAccept(state: State, call: Call, leg: Leg, agent: Agent): void {
  const rangMs = state.now - leg.since;
  leg.state = 'confirming';
  leg.since = state.now;
  const about = whatFor(state, call);
  play(state, call, leg.id, 'acceptCall', about);
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'askedToAccept',
    personId: agent.person.id,
    name: agent.person.name,
    to: state.phones.get(leg.phoneId ?? '')?.item.e164 ?? '',
    rangMs,
    about,
  });
}

/** For which queue or number of ours they are rung, as it is called. */
function whatFor(state: State, call: Call): string {
  return (
    call.queue?.item.name ??
    groupOf(state, call)?.item.name ??
    state.numbers.get(call.numberId ?? '')?.label ??
    call.campaign?.item.name ??
    'a call for you'
  );
}

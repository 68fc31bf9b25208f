import { dayBegins, localDay, minuteMs } from '../../hours/zone-clock.ts';
import type { LegFailure } from '../../story/facts.ts';
import type { Agent } from '../agents/agent.ts';
import { endCall, freeAgent } from '../calls/ending.ts';
import { routeFailed } from '../calls/route-attempt.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import type { Refusal } from '../kernel/events.ts';
import { reindexAgent } from '../agents/reindex.ts';
import { hold, note, play, release, stopRinging } from '../kernel/journal.ts';
import { serveLater } from '../kernel/later.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer } from '../kernel/timers.ts';
import { connect } from '../media/hearing.ts';
import { beginRecording } from '../media/recording.ts';
import { dropLeg } from '../media/channels.ts';
import { type Leg, legOf } from '../media/leg.ts';
import { rulesOf } from './call-back.ts';
import { beginStage, leaveList, pauseBeforeRinging, waitAgain } from './place.ts';
import type { QueueState } from './queue.ts';
import { backToQueue } from './waiting.ts';

const hourMs = 60 * minuteMs;

/** The caller lifts: they talk with the agent who heard it ring, or wait on the line until one is rung for them. */
export function callBackAnswered(state: State, call: Call, leg: Leg): Refusal | null {
  if (leg.party !== 'caller') return 'legNotRinging';
  clearTimer(state, call, 'activity');
  const rangMs = state.now - leg.since;
  leg.state = 'connected';
  leg.since = state.now;
  call.legs = [leg, ...call.legs.filter((each) => each !== leg)];
  const agent = call.talkingAgent;
  note(state, {
    ...{ callId: call.id, at: state.now, kind: 'calledBack', to: call.callBack!.to, rangMs },
    name: agent?.person.name ?? null,
    personId: agent?.person.id ?? null,
  });
  if (agent === null) {
    play(state, call, leg.id, 'waiting');
    waitAgain(state, call);
    return null;
  }
  begin(call, state.now, { kind: 'bridged' });
  call.answeredAt ??= state.now;
  const theirs = legOf(call, agent);
  connect(state, call, leg, theirs);
  // They called for help meanwhile.
  if (theirs.state === 'held') hold(state, call, theirs.id);
  beginRecording(state, call, agent);
  reindexAgent(state, agent);
  serveLater(state, agent);
  return null;
}

/** The caller's phone did not take it, or the line failed. */
export function callBackLegFailed(state: State, call: Call, leg: Leg, cause: LegFailure): Refusal | null {
  if (leg.party !== 'caller') return 'legNotRinging';
  const failure = routeFailed(state, call, leg, cause);
  if (failure !== null) callBackFailed(state, call, failure, false);
  return null;
}

export function callBackRangOut(state: State, call: Call): void {
  const leg = call.legs.find(({ party }) => party === 'caller')!;
  stopRinging(state, call, leg.id, 'noAnswer');
  callBackLegFailed(state, call, leg, 'noAnswer');
}

/** The agent hung up while the caller's phone rang: their turn goes to somebody else. */
export function callBackLegEnded(state: State, call: Call, leg: Leg): Refusal | null {
  const agent = call.talkingAgent;
  if (leg.party === 'caller') return callBackLegFailed(state, call, leg, 'declined');
  if (agent === null || leg.personId !== agent.person.id) return 'legNotConnected';
  const caller = call.legs.find(({ party }) => party === 'caller')!;
  clearTimer(state, call, 'activity');
  stopRinging(state, call, caller.id, 'abandoned');
  dropLeg(state, call, caller);
  call.tried.push(agent.person.id);
  letGo(state, call, agent);
  beginStage(state, call, call.queue!);
  backToQueue(state, call, call.queue!, 'one');
  return null;
}

/** Nobody was reached: it is tried again later, as often as the queue says; or it is over. */
export function callBackFailed(state: State, call: Call, cause: LegFailure, over: boolean): void {
  const queue = call.queue!;
  const rules = rulesOf(call);
  const agent = call.talkingAgent;
  leaveList(state, call);
  if (agent !== null) {
    release(state, call, legOf(call, agent).id, 'noAnswer');
    letGo(state, call, agent);
  }
  const callBack = { ...call.callBack!, tries: call.callBack!.tries + (over ? 0 : 1) };
  call.callBack = callBack;
  const isLast = over || rules === null || callBack.tries >= rules.tries;
  const againAt = isLast ? null : state.now + rules.retryMinutes * minuteMs;
  note(state, {
    ...{ callId: call.id, at: state.now, kind: 'callBackFailed', cause, tries: callBack.tries },
    ...{ most: rules?.tries ?? callBack.tries, againAt, name: agent?.person.name ?? null },
  });
  begin(call, state.now, { kind: 'step' });
  if (againAt === null) return endCall(state, call, 'exchange', cause === 'declined' ? 'refused' : cause);
  beginStage(state, call, queue);
  pauseBeforeRinging(state, call, queue, againAt);
}

/** The agent has nothing to do with it any more, and nothing to wrap up. */
function letGo(state: State, call: Call, agent: Agent): void {
  call.talkingAgent = null;
  dropLeg(state, call, legOf(call, agent));
  freeAgent(state, agent, call, 0);
}

/** When the hours begin again in which callers are called back; null while they last. By the queue's own clock. */
export function callingAgainAt(state: Readonly<State>, call: Call, queue: QueueState): number | null {
  const rules = rulesOf(call);
  if (rules === null) return null;
  const clock = state.hours.get(queue.item.hoursId ?? '')?.clock ?? state.settings.clock;
  const day = localDay(clock, state.now);
  const from = (of: number) => dayBegins(clock, of) + rules.fromHour * hourMs;
  if (state.now < from(day)) return from(day);
  return state.now < dayBegins(clock, day) + rules.toHour * hourMs ? null : from(day + 1);
}

import { minimumAfter, beginOf } from '../../distribute/stages.ts';
import { standingAt } from '../../hours/opening-hours.ts';
import type { QueueItem } from '../../model/configuration.ts';
import { mostOverflows } from '../../model/waiting.ts';
import type { SentOnBecause } from '../../story/records.ts';
import type { Agent } from '../agents/agent.ts';
import { withAnswered } from '../agents/answered-calls.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import type { Refusal } from '../kernel/events.ts';
import { isTold, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { setTimer } from '../kernel/timers.ts';
import { serveLater } from '../kernel/later.ts';
import type { Offer } from '../offers/offer.ts';
import { beginSounds } from './announcements.ts';
import { askToConfirm, callBackKeyPressed, expectOffer } from './call-back.ts';
import { beginStage, leaveList, pauseBeforeRinging, waitAgain } from './place.ts';
import type { QueueState } from './queue.ts';
import { hoursOf, limitsOf, overflow, setClosing, whyLeave, whyNobodyCould } from './ways-out.ts';

/** Puts the caller into the queue, or sends them on when a limit says so. */
export function enterQueue(
  state: State,
  call: Call,
  queue: QueueState,
  priority: number | null,
  asksToCallBack = false,
): void {
  const { item } = queue;
  call.priority = priority ?? priorityByRecord(call, item.recordPriorities) ?? call.priority;
  call.queue = queue;
  call.lastQueueId = item.id;
  call.tried = [];
  call.overdue = false;
  call.joinedAt = state.now;
  call.enteredAt = call.waitsSince ?? state.now;
  call.waitsSince = null;
  const because = whyNotEnter(state, call, queue);
  if (because !== null) return overflow(state, call, because);
  begin(call, state.now, { kind: 'waiting' });
  beginStage(state, call, queue);
  if (isTold(state)) {
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'enteredQueue',
      queueId: item.id,
      name: item.name,
      ahead: queue.waitingList.ahead(call) + queue.pausing,
      signedIn: queue.signedIn,
      otherwise: limitsOf(state, queue),
      ...musicOf(state, queue),
      ...(call.enteredAt < state.now ? { waitedMs: state.now - call.enteredAt } : {}),
    });
  }
  // The time taken along counts for the order; how long they may wait here counts from now.
  if (item.maxWaitSeconds !== null && !isHeldByNothing(call))
    setTimer(state, call, 'maxWait', state.now + item.maxWaitSeconds * 1000);
  const hours = hoursOf(state, queue);
  if (hours !== null) setClosing(state, call, queue, hours);
  queue.waitingList.push(call);
  beginSounds(state, call, queue);
  if (asksToCallBack) askToConfirm(state, call);
  else expectOffer(state, call, queue);
  serveLater(state, call);
}

/** The queue's own music, by name. */
function musicOf(state: State, { item: { hears } }: QueueState): { music?: { id: string; name: string } } {
  const music = hears?.musicId == null ? undefined : state.prompts.get(hears.musicId);
  return music === undefined ? {} : { music: { id: music.id, name: music.name } };
}

/** The largest of those that fit the caller's record; undefined for none. */
function priorityByRecord({ record }: Call, rules: QueueItem['recordPriorities'] = []): number | undefined {
  const fits = rules.filter(
    ({ field, value }) => record?.fields?.[field]?.trim().toLowerCase() === value.trim().toLowerCase(),
  );
  return fits.length === 0 ? undefined : Math.max(...fits.map(({ priority }) => priority));
}

function whyNotEnter(state: State, call: Call, queue: QueueState): SentOnBecause | null {
  const { maxWaiting } = queue.item;
  const hours = hoursOf(state, queue);
  if (hours !== null && standingAt(hours, state.now).state !== 'open') return 'closed';
  const nobody = whyNobodyCould(queue);
  if (nobody !== null) return nobody;
  const here = queue.waitingList.size + queue.pausing + queue.offering;
  const isFull = maxWaiting !== null && here >= maxWaiting && queue.idle.sizeAt(0) === 0;
  return isFull && !isHeldByNothing(call) ? 'queueFull' : null;
}

/** Sent on so often that nothing sends them on any more for want of room or patience: they wait. */
const isHeldByNothing = (call: Call) => call.overflows >= mostOverflows;

/** A contact who answered is put before the queue's callers: an agent must come within two seconds. */
export function enterAnswered(state: State, call: Call, queue: QueueState): void {
  call.queue = queue;
  call.lastQueueId = queue.item.id;
  call.joinedAt = state.now;
  call.enteredAt = state.now;
  call.stage = 0;
  call.tried = [];
  waitAgain(state, call);
}

/** The wait has come to its next stage: a lower level is enough, or more people may be rung. */
export function stageBegan(state: State, call: Call): void {
  const queue = call.queue!;
  const isInList = call.heapIndex >= 0;
  if (isInList) queue.waitingList.remove(call);
  beginStage(state, call, queue);
  if (isTold(state)) noteStage(state, call, queue);
  if (!isInList) return;
  queue.waitingList.push(call);
  serveLater(state, call);
}

/** Names of people who joined, at most. */
const namedWhoJoined = 5;

function noteStage(state: State, call: Call, queue: QueueState): void {
  const now = beginOf(queue.stages, call.stage);
  const before = beginOf(queue.stages, call.stage - 1);
  const joined = queue.members.filter(({ joinsAfter }) => joinsAfter > before && joinsAfter <= now);
  note(state, {
    ...{ callId: call.id, at: state.now, kind: 'easierToServe', queueId: queue.item.id },
    ...{ name: queue.item.name, afterSeconds: now },
    enough: queue.item.skills
      .filter((skill) => minimumAfter(skill, now) < minimumAfter(skill, before))
      .map((skill) => ({ skill: skill.name, minimum: minimumAfter(skill, now) })),
    joined: joined.slice(0, namedWhoJoined).map(({ agent }) => agent.person.name),
    ...{ joinedCount: joined.length, fitting: queue.idle.sizeAt(call.stage) },
  });
}

/** The pause is over in which nobody is rung. */
export function ringAgain(state: State, call: Call): void {
  call.queue!.pausing--;
  backToQueue(state, call, call.queue!, 'one');
}

/** Somebody answered a call of this queue: what the order of its members may depend on. */
export function countAnswered(state: State, queue: QueueState, agent: Agent): void {
  agent.answered = withAnswered(agent.answered, state.now);
  const membership = agent.memberships.find((each) => each.queue === queue);
  if (membership !== undefined) queue.lastAnswered = membership.order;
}

/**
 * An offer of the call, to one or to all, came to nothing: it waits again, or leaves by a limit that was met meanwhile.
 */
export function backToQueue(state: State, call: Call, queue: QueueState, rang: Offer['mode']): void {
  if (call.direction === 'outbound') return waitAgain(state, call);
  const because = whyLeave(state, call, queue);
  if (because !== null) overflow(state, call, because);
  else if (rang === 'all') pauseBeforeRinging(state, call, queue);
  else waitAgain(state, call);
}

/** A key of a caller who waits, or for whom somebody is rung. */
export function waitingKeyPressed(state: State, call: Call, key: string): Refusal | null {
  const { queue } = call;
  if (queue === null || call.direction !== 'inbound') return 'notExpected';
  const asked = call.activity.kind === 'waiting' ? callBackKeyPressed(state, call, key) : undefined;
  if (asked !== undefined) return asked;
  if (key !== queue.item.leaveKey) return 'notExpected';
  leaveList(state, call);
  overflow(state, call, 'pressed');
  return null;
}

import type { ChosenBecause } from '../../distribute/decide.ts';
import { usuallyRung } from '../../model/distribution.ts';
import type { Agent } from '../agents/agent.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { servedBefore } from '../calls/order.ts';
import { isTold, note } from '../kernel/journal.ts';
import { notReachedLater } from '../kernel/later.ts';
import type { State } from '../kernel/state.ts';
import { offerTo } from '../offers/ringing.ts';
import { chooseMember } from './choose.ts';
import { decisionRecord } from './explain.ts';
import type { Membership, QueueState } from './queue.ts';
import { callCaller, rulesOf } from './call-back.ts';
import { callingAgainAt } from './calling-back.ts';
import { countOffer, isOffLine, leaveList, pauseBeforeRinging } from './place.ts';

/**
 * Serves the queue of a call that began to wait: contacts who answered, then callers, first come first served. Says
 * why when the call itself has to go on waiting.
 */
export function serveCall(state: State, call: Call): void {
  const queue = call.queue;
  if (queue === null || call.heapIndex < 0) return;
  for (let next = queue.answered.peek(); next !== undefined && queue.idleAutoAnswering > 0;) {
    offer(state, queue, next);
    next = queue.answered.peek();
  }
  for (let next = servable(queue); next !== undefined;) {
    // Whoever would take this call may owe another queue's caller their turn: the order of callers holds over all.
    const chosen = chooseMember(state, queue, next)!;
    const owed = owes(state, chosen.member.agent, next);
    if (owed === null) offer(state, queue, next, chosen);
    else offer(state, owed.queue, owed.call);
    next = servable(queue);
  }
  if (call.heapIndex >= 0 && isTold(state))
    note(state, decisionRecord(state, queue, call, null, 'nobodyEligible'));
}

/** The first caller for whom somebody who fits is free. */
function servable(queue: QueueState): Call | undefined {
  const from = queue.idle.firstStage;
  return Number.isFinite(from) ? queue.waitingList.peek(from) : undefined;
}

/**
 * Of all the queues an idle agent works for, the caller who is first is offered. That offer may go to another
 * member, who has not been tried yet; then the next caller is offered, until the agent is rung or nobody waits.
 */
export function serveAgent(state: State, agent: Agent): void {
  for (;;) {
    const next = (agent.autoAnswers ? firstContact(state, agent) : null) ?? firstCaller(state, agent);
    if (next === null) return;
    offer(state, next.queue, next.call);
  }
}

/** Of all the queues for which the agent may be rung now, the caller, or contact, who comes first. */
function first(
  state: State,
  agent: Agent,
  waits: (member: Membership) => Call | undefined,
): { queue: QueueState; call: Call } | null {
  let found: { queue: QueueState; call: Call } | null = null;
  for (const member of agent.memberships) {
    const call = member.firstReason >= 0 ? undefined : waits(member);
    if (call === undefined) continue;
    const { queue } = member;
    if (found === null || servedBefore(queue.item, call, found.queue.item, found.call, state.now))
      found = { queue, call };
  }
  return found;
}

const waitsForThem = ({ queue, stage }: Membership) => queue.waitingList.peek(stage);
const answeredForThem = ({ queue, fitsFrom }: Membership) =>
  fitsFrom === 0 ? queue.answered.peek() : undefined;
const firstCaller = (state: State, agent: Agent) => first(state, agent, waitsForThem);
const firstContact = (state: State, agent: Agent) => first(state, agent, answeredForThem);

/** Offers a waiting call to the member chosen. The queue must have an idle member who can take it. */
function offer(
  state: State,
  queue: QueueState,
  call: Call,
  chosen: { member: Membership; why: ChosenBecause } | null = chooseMember(state, queue, call),
): void {
  if (chosen === null) throw new Error(`offer: nobody in ${queue.item.name} can take ${call.id}`);
  const { member, why } = chosen;
  if (isOffLine(call)) {
    if (state.optedOut.has(call.callBack!.to)) return callNobody(state, call);
    const againAt = callingAgainAt(state, call, queue);
    if (againAt !== null) return waitForHours(state, call, queue, againAt);
    if (rulesOf(call)?.first === 'caller') return callFirst(state, call, member);
  }
  const together = ringsTogether(state, queue, call, chosen);
  if (isTold(state)) note(state, decisionRecord(state, queue, call, member, why, together ?? []));
  if (why === 'triedAllOthers') forgetTurn(queue, call, member);
  leaveList(state, call);
  countOffer(call);
  queue.draws++;
  const agents = (together ?? [member]).map(({ agent }) => agent);
  offerTo(state, call, agents, queue.item.ringSeconds, { mode: together === null ? 'one' : 'all' });
}

/** They asked, since it was promised, not to be called: it is over. */
function callNobody(state: State, call: Call): void {
  leaveList(state, call);
  begin(call, state.now, { kind: 'step' });
  note(state, { callId: call.id, at: state.now, kind: 'callBackRefused', why: 'optedOut' });
  notReachedLater(state, call, 'refused', true);
}

/** Their turn came at an hour at which nobody is called: it comes again when that is over. */
function waitForHours(state: State, call: Call, queue: QueueState, againAt: number): void {
  leaveList(state, call);
  note(state, { callId: call.id, at: state.now, kind: 'callBackTooLate', againAt });
  pauseBeforeRinging(state, call, queue, againAt);
}

/** Their turn came: they are called before anybody is rung for them. */
function callFirst(state: State, call: Call, { agent }: Membership): void {
  leaveList(state, call);
  note(state, { callId: call.id, at: state.now, kind: 'callBackTurn', name: agent.person.name });
  callCaller(state, call);
}

/** Everybody of this turn was tried: it begins anew. Whom it tried of other turns stays so. */
function forgetTurn({ members }: QueueState, call: Call, { turn }: Membership): void {
  const again = members.filter((each) => each.turn === turn).map(({ personId }) => personId);
  call.tried = call.tried.filter((personId) => !again.includes(personId));
}

/**
 * All who are rung for a call whose queue rings all at once: of the turn of who was chosen, up to the queue's bound, and
 * nobody who owes their turn to another queue's caller. Null when one is rung.
 */
function ringsTogether(
  state: State,
  queue: QueueState,
  call: Call,
  { member, why }: { member: Membership; why: ChosenBecause },
): Membership[] | null {
  if (queue.distribution.ring === 'one' || call.direction === 'outbound' || why === 'recordOwner')
    return null;
  const together = [member];
  for (const other of queue.idle.inOrder(call.stage)) {
    if (together.length >= (queue.item.ringsAtMost ?? usuallyRung) || other.turn !== member.turn) break;
    if (other !== member && owes(state, other.agent, call) === null) together.push(other);
  }
  return together;
}

/** The caller of another queue to whom this agent owes their turn before `call`. */
function owes(state: State, agent: Agent, call: Call): { queue: QueueState; call: Call } | null {
  const owed = agent.memberships.length === 1 ? null : firstCaller(state, agent);
  return owed?.call === call ? null : owed;
}

/** An answered contact goes to the agent who was reserved for the call, when that agent can still take it. */
export function offerToReserved(state: State, queue: QueueState, call: Call, reserved: Agent): boolean {
  const chosen = chooseMember(state, queue, call, reserved);
  if (chosen?.why !== 'reservedForThis') return false;
  if (isTold(state)) note(state, decisionRecord(state, queue, call, chosen.member, chosen.why));
  offerTo(state, call, [chosen.member.agent], queue.item.ringSeconds);
  return true;
}

import { decide, type ChosenBecause } from '../../distribute/decide.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { State } from '../kernel/state.ts';
import { beginDayWhenDue } from './day.ts';
import type { Membership, QueueState } from './queue.ts';

/** The member who looks after the caller's record, where the queue asks for that. */
export function ownerIn(state: Readonly<State>, queue: QueueState, call: Call): Membership | null {
  const ownerId = queue.item.preferOwner ? (call.record?.ownerId ?? null) : null;
  if (ownerId === null) return null;
  const owner = state.agents.get(ownerId);
  return owner === undefined ? null : memberOf(queue, owner);
}

function memberOf(queue: QueueState, agent: Agent): Membership | null {
  return agent.memberships.find((each) => each.queue === queue) ?? null;
}

const anybody = () => true;
const whoAnswersByItself = (member: Membership) => member.agent.autoAnswers;

/** Somebody who comes before everybody else, when they are eligible. */
function ahead<Because extends 'recordOwner' | 'reservedForThis'>(
  member: Membership | null | undefined,
  because: Because,
  stage: number,
): { member: Membership; because: Because } | null {
  return member != null && member.firstReason < 0 && member.stage <= stage ? { member, because } : null;
}

/**
 * Who is rung next for a call of this queue; null when nobody can be. `reserved` comes before everybody: the agent kept
 * free for an answered contact.
 */
export function chooseMember(
  state: Readonly<State>,
  queue: QueueState,
  call: Call,
  reserved: Agent | null = null,
): { member: Membership; why: ChosenBecause } | null {
  beginDayWhenDue(state, queue);
  const outbound = call.direction === 'outbound';
  return decide(queue.idle, {
    first:
      reserved === null
        ? ahead(ownerIn(state, queue, call), 'recordOwner', call.stage)
        : ahead(memberOf(queue, reserved), 'reservedForThis', 0),
    tried: call.tried,
    fits: outbound ? whoAnswersByItself : anybody,
    stage: call.stage,
    fitting: outbound ? queue.idleAutoAnswering : queue.idle.sizeAt(call.stage),
    because: queue.distribution.kind,
    inTurns: queue.inTurns,
  });
}

/** The agent whom a campaign reserves for the next call: the first in order whose phone answers by itself. */
export function chooseToReserve(state: Readonly<State>, queue: QueueState): Agent | null {
  beginDayWhenDue(state, queue);
  const chosen = decide(queue.idle, {
    tried: [],
    fits: whoAnswersByItself,
    stage: 0,
    fitting: queue.idleAutoAnswering,
    because: queue.distribution.kind,
    inTurns: queue.inTurns,
  });
  return chosen === null ? null : chosen.member.agent;
}

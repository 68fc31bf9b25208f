import { decide, type ChosenBecause } from '../../distribute/decide.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { State } from '../kernel/state.ts';
import type { Membership, QueueState } from './queue.ts';

/** The member who looks after the caller's record, where the queue asks for that. */
export function ownerIn(state: Readonly<State>, queue: QueueState, call: Call): Membership | null {
  const ownerId = queue.item.preferOwner ? (call.record?.ownerId ?? null) : null;
  if (ownerId === null) return null;
  return state.agents.get(ownerId)?.memberships.find((member) => member.queue === queue) ?? null;
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
  const outbound = call.direction === 'outbound';
  const own = (member: Membership | null | undefined, because: 'recordOwner' | 'reservedForThis') =>
    member != null && member.firstReason < 0 ? { member, because } : null;
  return decide(queue.idle.inOrder(), {
    first:
      reserved === null
        ? own(ownerIn(state, queue, call), 'recordOwner')
        : own(
            reserved.memberships.find((each) => each.queue === queue),
            'reservedForThis',
          ),
    wasTried: (member) => call.tried.includes(member.personId),
    fits: (member) => !outbound || member.agent.autoAnswers,
    fitting: outbound ? queue.idleAutoAnswering : queue.idle.size,
    because: queue.distribution.because,
  });
}

/** The agent whom a campaign reserves for the next call: the first in order whose phone answers by itself. */
export function chooseToReserve(queue: QueueState): Agent | null {
  const chosen = decide(queue.idle.inOrder(), {
    wasTried: () => false,
    fits: (member) => member.agent.autoAnswers,
    fitting: queue.idleAutoAnswering,
    because: queue.distribution.because,
  });
  return chosen === null ? null : chosen.member.agent;
}

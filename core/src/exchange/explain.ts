import {
  type Candidate,
  type Candidates,
  fullTableLimit,
  namedBehindChosen,
} from '../distribute/candidates.ts';
import { reasonCodes, reasonsAgainst } from '../distribute/eligibility.ts';
import type { Destination } from '../model/destination.ts';
import type { StoryRecord } from './records.ts';
import { type Call, type Membership, type QueueState, type State, displayState } from './state.ts';

/** The name a person reads for a destination, as it is now. */
export function destinationName(state: State, destination: Destination): string {
  switch (destination.kind) {
    case 'queue':
      return state.queues.get(destination.id)?.item.name ?? 'a queue that is gone';
    case 'person':
      return state.agents.get(destination.id)?.person.name ?? 'a person who is gone';
    case 'voicemail':
      return state.boxes.get(destination.id)?.name ?? 'a voicemail box that is gone';
    case 'end':
      return 'the end of the call';
  }
}

/** Who was considered for `call`, who was chosen, and why. Reads the state, never touches it. */
export function decisionRecord(
  state: State,
  queue: QueueState,
  call: Call,
  chosen: Membership | null,
  allTried: boolean,
): StoryRecord {
  const candidates = candidatesOf(state, queue, call, chosen);
  const names: Record<string, string> = {};
  for (const candidate of candidates.listed) {
    names[candidate.personId] = state.agents.get(candidate.personId)?.person.name ?? '';
  }
  let why: 'onlyOne' | 'longestIdle' | 'triedAllOthers' | 'nobodyEligible' = 'longestIdle';
  if (chosen === null) why = 'nobodyEligible';
  else if (allTried) why = 'triedAllOthers';
  else if (candidates.eligible === 1) why = 'onlyOne';
  return {
    callId: call.id,
    at: state.now,
    kind: 'decision',
    queueId: queue.item.id,
    queueName: queue.item.name,
    chosen: chosen === null ? null : chosen.personId,
    chosenName: chosen === null ? null : chosen.agent.person.name,
    why,
    candidates,
    names,
    ringSeconds: queue.item.ringSeconds,
  };
}

function candidatesOf(state: State, queue: QueueState, call: Call, chosen: Membership | null): Candidates {
  const counts: Candidates['counts'] = {};
  for (let i = 0; i < reasonCodes.length; i++) {
    const count = queue.reasonCounts[i]!;
    if (count > 0) counts[reasonCodes[i]!] = count;
  }
  const total = queue.members.length;
  const everybody = state.out.detail === 'full' || total <= fullTableLimit;
  const listed: Candidate[] = [];
  let others = 0;
  if (chosen !== null) listed.push(candidate(state, chosen, call));
  for (const member of queue.idle.inOrder()) {
    if (member === chosen) continue;
    if (!everybody && ++others > namedBehindChosen) break;
    listed.push(candidate(state, member, call));
  }
  if (everybody) {
    for (const member of queue.members) if (member.heapIndex < 0) listed.push(candidate(state, member, call));
  }
  return { total, eligible: queue.idle.size, counts, listed };
}

function candidate(state: State, member: Membership, call: Call): Candidate {
  const agent = member.agent;
  const { state: shown, since } = displayState(agent, state.now);
  return {
    personId: member.personId,
    state: shown,
    stateSince: since,
    idleSince: agent.idleSince,
    reasons: agent.firstReason < 0 ? [] : reasonsAgainst(agent, state.now),
    triedBefore: call.tried.includes(member.personId),
  };
}

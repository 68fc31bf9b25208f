import {
  type Candidate,
  type Candidates,
  fullTableLimit,
  namedBehindChosen,
} from '../distribute/candidates.ts';
import { reasonCodes, reasonsAgainst } from '../distribute/eligibility.ts';
import { type Destination, passingSteps } from '../model/destination.ts';
import { ownMailbox, reachedBy, ringingPhone } from './agents.ts';
import type { ChosenBecause, StoryRecord } from './records.ts';
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
    case 'outside':
      return state.outsideNumbers.get(destination.id)?.name ?? 'an outside number that is gone';
    case 'room':
      return state.rooms.get(destination.id)?.name ?? 'a conference room that is gone';
    case 'fax':
      return state.faxBoxes.get(destination.id)?.name ?? 'a fax box that is gone';
    case 'number':
      return state.numbers.get(destination.id)?.label ?? 'a number that is gone';
    case 'end':
      return 'the end of the call';
  }
}

/** What is left of the steps for when nobody lifts, by name, to where the call would rest. */
export function stepsLeft(state: State, call: Call): string[] {
  const chain = call.chain!;
  const steps = chain.left.map((step) =>
    step.kind === 'otherPhones' ? 'their other phones' : destinationName(state, step),
  );
  const last = chain.left.at(-1);
  if (last !== undefined && !passingSteps.includes(last.kind)) return steps;
  return [...steps, destinationName(state, ownMailbox(state.agents.get(chain.personId)))];
}

/** Who was considered for `call`, who was chosen, and why. Reads the state, never touches it. */
export function decisionRecord(
  state: State,
  queue: QueueState,
  call: Call,
  chosen: Membership | null,
  why: ChosenBecause,
): StoryRecord {
  const candidates = candidatesOf(state, queue, call, chosen);
  const names: Record<string, string> = {};
  for (const candidate of candidates.listed) {
    names[candidate.personId] = state.agents.get(candidate.personId)?.person.name ?? '';
  }
  const owner = ownerIn(state, queue, call);
  return {
    callId: call.id,
    at: state.now,
    kind: 'decision',
    queueId: queue.item.id,
    queueName: queue.item.name,
    chosen: chosen === null ? null : chosen.personId,
    chosenName: chosen === null ? null : chosen.agent.person.name,
    why,
    owner:
      owner === null || owner === chosen ? null : { personId: owner.personId, name: owner.agent.person.name },
    candidates,
    names,
    ringSeconds: queue.item.ringSeconds,
  };
}

/** The member who looks after the caller's record, where the queue asks for that. */
export function ownerIn(state: State, queue: QueueState, call: Call): Membership | null {
  const ownerId = queue.item.preferOwner ? (call.record?.ownerId ?? null) : null;
  if (ownerId === null) return null;
  return state.agents.get(ownerId)?.memberships.find((member) => member.queue === queue) ?? null;
}

function candidatesOf(state: State, queue: QueueState, call: Call, chosen: Membership | null): Candidates {
  const counts: Candidates['counts'] = {};
  for (let i = 0; i < reasonCodes.length; i++) {
    const count = queue.reasonCounts[i]!;
    if (count > 0) counts[reasonCodes[i]!] = count;
  }
  const outbound = call.direction === 'outbound';
  const eligible = outbound ? queue.idleAutomatic : queue.idle.size;
  if (queue.idle.size > eligible) counts.lineNotOpen = queue.idle.size - eligible;
  const total = queue.members.length;
  const everybody = state.out.detail === 'full' || total <= fullTableLimit;
  const listed: Candidate[] = [];
  const later: Membership[] = [];
  let others = 0;
  if (chosen !== null) listed.push(candidate(state, chosen, call));
  for (const member of queue.idle.inOrder()) {
    if (member === chosen) continue;
    if (outbound && !member.agent.automatic) {
      if (everybody) later.push(member);
      continue;
    }
    if (!everybody && ++others > namedBehindChosen) break;
    listed.push(candidate(state, member, call));
  }
  if (everybody) {
    for (const member of queue.members) if (member.heapIndex < 0) later.push(member);
  }
  listed.push(...later.map((member) => candidate(state, member, call)));
  return { total, eligible, counts, listed };
}

function candidate(state: State, member: Membership, call: Call): Candidate {
  const agent = member.agent;
  const { state: shown, since } = displayState(agent, state.now);
  const reasons = agent.firstReason < 0 ? [] : reasonsAgainst(agent, state.now);
  reasons.push(...member.gaps);
  if (call.direction === 'outbound' && agent.phone.state === 'outside' && !agent.automatic)
    reasons.push({ code: 'lineNotOpen' });
  return {
    personId: member.personId,
    state: shown,
    stateSince: since,
    phone: agent.line !== null ? 'openLine' : reachedBy(ringingPhone(state, agent)),
    idleSince: agent.idleSince,
    reasons,
    triedBefore: call.tried.includes(member.personId),
  };
}

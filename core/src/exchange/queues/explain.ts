import {
  type Candidate,
  type Candidates,
  fullTableLimit,
  namedBehindChosen,
} from '../../distribute/candidates.ts';
import type { ChosenBecause } from '../../distribute/decide.ts';
import { type Reason, reasonCodes, reasonsAgainst, skillGaps } from '../../distribute/eligibility.ts';
import { beginOf } from '../../distribute/stages.ts';
import type { StoryRecord } from '../../story/records.ts';
import { displayState } from '../agents/display-state.ts';
import { reachedBy, ringingPhone } from '../agents/phones.ts';
import type { Call } from '../calls/call.ts';
import type { State } from '../kernel/state.ts';
import { ownerIn } from './choose.ts';
import type { Membership, QueueState } from './queue.ts';

/** Who was considered for `call`, who was chosen, and why. Reads the state, never touches it. */
export function decisionRecord(
  state: State,
  queue: QueueState,
  call: Call,
  chosen: Membership | null,
  why: ChosenBecause,
  together: readonly Membership[] = [],
): StoryRecord {
  const candidates = candidatesOf(state, queue, call, chosen);
  const names: Record<string, string> = {};
  for (const { personId } of candidates.listed)
    names[personId] = state.agents.get(personId)?.person.name ?? '';
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
    distribution: queue.distribution.kind,
    together: together.map(({ personId, agent }) => ({ personId, name: agent.person.name })),
    owner:
      owner === null || owner === chosen ? null : { personId: owner.personId, name: owner.agent.person.name },
    candidates,
    skills: queue.distribution.kind === 'bestSkill' ? queue.item.skills.map(({ name }) => name) : [],
    inTurns: queue.inTurns,
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
  const outbound = call.direction === 'outbound';
  const fitting = queue.idle.sizeAt(call.stage);
  const eligible = outbound ? queue.idleAutoAnswering : fitting;
  if (queue.idle.size > fitting) counts.notYet = queue.idle.size - fitting;
  if (fitting > eligible) counts.lineNotOpen = fitting - eligible;
  const total = queue.members.length;
  const everybody = state.out.detail === 'full' || total <= fullTableLimit;
  const listed: Candidate[] = [];
  const later: Membership[] = [];
  let others = 0;
  if (chosen !== null) listed.push(candidate(state, chosen, call));
  for (const member of queue.idle.inOrder(everybody ? Number.POSITIVE_INFINITY : call.stage)) {
    if (member === chosen) continue;
    if (member.stage > call.stage || (outbound && !member.agent.autoAnswers)) {
      if (everybody) later.push(member);
      continue;
    }
    if (!everybody && ++others > namedBehindChosen) break;
    listed.push(candidate(state, member, call));
  }
  if (everybody) {
    for (const member of queue.members) if (member.firstReason >= 0) later.push(member);
  }
  listed.push(...later.map((member) => candidate(state, member, call)));
  return { total, eligible, counts, listed };
}

function candidate(state: State, member: Membership, call: Call): Candidate {
  const { agent } = member;
  const { state: shown, since } = displayState(agent, state.now);
  const { queue } = member;
  const reasons: Reason[] = member.firstReason < 0 ? [] : reasonsAgainst(agent, state.now, queue.rules);
  if (queue.item.skills.length > 0) {
    const waited = beginOf(queue.stages, call.stage);
    reasons.push(...skillGaps(agent.person.skills, queue.item.skills, waited));
  }
  if (member.fitsFrom > call.stage && Number.isFinite(member.fitsFrom))
    reasons.push({ code: 'notYet', afterSeconds: beginOf(queue.stages, member.fitsFrom) });
  if (call.direction === 'outbound' && agent.phone.state === 'outside' && !agent.autoAnswers)
    reasons.push({ code: 'lineNotOpen' });
  return {
    personId: member.personId,
    state: shown,
    stateSince: since,
    phone: agent.persistentLine !== null ? 'openLine' : reachedBy(ringingPhone(state, agent)),
    idleSince: agent.idleSince,
    reasons,
    triedBefore: call.tried.includes(member.personId),
    ...{ turn: member.turn, answeredToday: member.answeredToday, levels: member.levels },
  };
}

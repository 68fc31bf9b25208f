import { reasonsAgainstDirect } from '../../distribute/eligibility.ts';
import { mostTogether } from '../../model/ring.ts';
import { type RingMissWhy, strongerMiss } from '../../plan/ring.ts';
import type { Begin } from '../../plan/step-kind.ts';
import type { StandsAgainst } from '../../story/records.ts';
import type { Agent } from '../agents/agent.ts';
import { reachablePhones, reachedBy } from '../agents/phones.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { forward } from '../calls/dial-out.ts';
import { missByReasons } from '../calls/miss.ts';
import type { RingGroup } from '../groups/ring-group.ts';
import { groupOf, peopleOfTarget } from '../groups/members.ts';
import { effect, isTold, note, play } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { takeMessage } from '../media/voicemail.ts';
import { setTimer } from '../kernel/timers.ts';
import { leaveStep } from '../kernel/later.ts';
import { offerTo } from '../offers/ringing.ts';
import { enterQueue } from '../queues/waiting.ts';
import { pathAhead } from './path-ahead.ts';

/** No fax takes longer to begin and send its pages. */
const faxSeconds = 600;

/** Those whom a record names who were not rung. */
const mostAgainst = 20;

/** Begins what a step says the call rests in. The step has seen that what it names is there. */
export function beginActivity(state: State, call: Call, what: Begin): void {
  switch (what.kind) {
    case 'ring':
      return ringPerson(state, call, what.personId, what.seconds);
    case 'ringOtherPhone':
      return ringOtherPhone(state, call, what.personId);
    case 'ringSeveral':
      return ringTurn(state, call, what);
    case 'wait':
      return enterQueue(state, call, state.queues.get(what.queueId)!, what.priority, what.asks);
    case 'record':
      return takeMessage(state, call, what.boxId);
    case 'dialOut':
      call.lastGroupId = groupOf(state, call)?.item.id ?? call.lastGroupId;
      return forward(state, call, state.outsideNumbers.get(what.outsideId)!, what.seconds);
    case 'conference':
      return joinConference(state, call, what.roomId);
    case 'receiveFax':
      return receiveFax(state, call, what.boxId);
  }
}

/** One turn of several who are rung: everybody of them who can be, each once, for as long as was set for them. */
function ringTurn(
  state: State,
  call: Call,
  { targets, round, rounds, groupId, passed }: Begin & { kind: 'ringSeveral' },
): void {
  call.noAnswerPath = null;
  const seconds = new Map<Agent, number>();
  for (const target of targets)
    for (const agent of peopleOfTarget(state, target))
      if (!seconds.has(agent)) seconds.set(agent, target.seconds);
  const group = state.ringGroups.get(groupId ?? '');
  const sitOut = group?.sitOut ?? [];
  const all: Agent[] = [];
  // Who is tried again in a later round is named once.
  const names = new Set(passed.length === 0 ? [] : [...seconds.keys()].map(({ person }) => person.name));
  const against: StandsAgainst[] = passed.filter(({ name }) => !names.has(name));
  const stands = (each: StandsAgainst) => {
    if (against.length < mostAgainst) against.push(each);
  };
  let why: RingMissWhy = null;
  for (const agent of seconds.keys()) {
    const { name, id } = agent.person;
    const reasons = reasonsAgainstDirect(agent);
    if (sitOut.includes(id)) stands({ name, reasons: [], sitsOut: true });
    else if (reasons.length === 0) all.push(agent);
    else {
      stands({ name, reasons });
      why = strongerMiss(why, missByReasons(reasons));
    }
  }
  const rung = all.slice(0, mostTogether);
  // Of a group, who could not be rung stands in the record of the next turn that rings, or of the way out.
  if (rung.length === 0 && groupId !== null)
    return leaveStep(state, call, 'notTaken', null, { why, not: against });
  const behind = group?.item.order === 'roundRobin' ? nameOfLast(state, group) : null;
  if (isTold(state))
    note(state, {
      ...(behind === null ? {} : { behind }),
      ...{ callId: call.id, at: state.now, kind: 'ringsSeveral', round, rounds, not: against },
      ...(all.length > rung.length ? { beyond: all.length - rung.length } : {}),
      rung: rung.map((agent) => ({ name: agent.person.name, seconds: seconds.get(agent)! })),
    });
  if (rung.length === 0) return leaveStep(state, call, 'notTaken');
  call.lastGroupId = groupId ?? call.lastGroupId;
  play(state, call, call.legs[0]!.id, 'ringing');
  offerTo(state, call, rung, (agent) => seconds.get(agent)!, { mode: rung.length === 1 ? 'one' : 'all' });
}

function nameOfLast(state: State, { lastAnswered }: RingGroup): string | null {
  if (lastAnswered === null) return null;
  const person = state.agents.get(lastAnswered)?.person;
  return (person ?? state.outsideNumbers.get(lastAnswered))?.name ?? null;
}

/** A call straight to a person, by their extension or a number that leads to them. */
function ringPerson(state: State, call: Call, personId: string, seconds: number | null): void {
  const agent = state.agents.get(personId)!;
  call.noAnswerPath ??= { personId, rung: [], declined: false };
  const reasons = reasonsAgainstDirect(agent);
  const ringSeconds = seconds ?? agent.person.ringSeconds;
  if (isTold(state))
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'directDecision',
      personId,
      name: agent.person.name,
      rings: reasons.length === 0,
      reasons,
      ringSeconds,
      otherwise: pathAhead(state, call),
    });
  if (reasons.length > 0) return leaveStep(state, call, 'notTaken');
  play(state, call, call.legs[0]!.id, 'ringing');
  offerTo(state, call, [agent], ringSeconds);
}

/** The next of their phones in ring order that has not rung for this call. */
function ringOtherPhone(state: State, call: Call, personId: string): void {
  const agent = state.agents.get(personId);
  const path = call.noAnswerPath;
  const phone =
    agent === undefined || path === null || path.declined
      ? undefined
      : reachablePhones(state, agent).find((each) => !path.rung.includes(each.item.id));
  if (
    agent === undefined ||
    phone === undefined ||
    agent.persistentLine !== null ||
    reasonsAgainstDirect(agent).length > 0
  )
    return leaveStep(state, call, 'noneLeft');
  const { name, ringSeconds } = agent.person;
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'ringsElsewhere',
    personId,
    name,
    phone: reachedBy(phone)!,
    ringSeconds,
  });
  offerTo(state, call, [agent], ringSeconds, { phone });
}

function joinConference(state: State, call: Call, roomId: string): void {
  const room = state.rooms.get(roomId)!;
  const others = [...state.calls.values()].filter(
    ({ activity }) => activity.kind === 'conference' && activity.roomId === roomId,
  ).length;
  begin(call, state.now, { kind: 'conference', roomId });
  call.answeredAt ??= state.now;
  effect(state, {
    kind: 'joinRoom',
    callId: call.id,
    leg: call.legs[0]!.id,
    roomId,
    tone: room.joinTone,
  });
  note(state, { callId: call.id, at: state.now, kind: 'joinedRoom', name: room.name, others });
}

function receiveFax(state: State, call: Call, boxId: string): void {
  const box = state.faxBoxes.get(boxId)!;
  begin(call, state.now, { kind: 'receivingFax', boxId });
  setTimer(state, call, 'activity', state.now + faxSeconds * 1000);
  effect(state, { kind: 'receiveFax', callId: call.id, leg: call.legs[0]!.id, boxId });
  note(state, { callId: call.id, at: state.now, kind: 'faxTone', name: box.name });
}

import type { RingTarget } from '../../model/ring.ts';
import type { RingGroupItem } from '../../model/ring-group.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { Refusal } from '../kernel/events.ts';
import { effect } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { RingGroup } from './ring-group.ts';

/** A group that is new, or has other settings. Who left it without being a member any more is forgotten. */
export function changeRingGroup(state: State, item: RingGroupItem): void {
  const group = state.ringGroups.get(item.id);
  if (group === undefined) {
    state.ringGroups.set(item.id, new RingGroup(item));
    return;
  }
  group.item = item;
  group.sitOut = group.sitOut.filter((personId) => isMember(state, group, personId));
}

const byName = new Intl.Collator('en', { numeric: true });
/** Teams are made anew with every change of the set-up: each is put in order once, when somebody asks. */
const inOrder = new WeakMap<readonly Agent[], readonly Agent[]>();

/** The people of a team, by name. */
export function peopleOfTeam(state: Readonly<State>, teamId: string): readonly Agent[] {
  const team = state.teams.get(teamId);
  if (team === undefined) return [];
  let people = inOrder.get(team);
  if (people === undefined) {
    people = [...team].sort(
      (one, other) =>
        byName.compare(one.person.name, other.person.name) || (one.person.id < other.person.id ? -1 : 1),
    );
    inOrder.set(team, people);
  }
  return people;
}

/** By themselves, or by their team. */
export function isMember(state: Readonly<State>, { item }: RingGroup, personId: string): boolean {
  const teamId = state.agents.get(personId)?.person.teamId ?? null;
  return item.targets.some(({ kind, id }) => (kind === 'person' ? id === personId : id === teamId));
}

/** The people in use that are meant by one who is rung; a number outside is nobody's. */
export function peopleOfTarget(state: Readonly<State>, { kind, id }: RingTarget): readonly Agent[] {
  if (kind === 'team') return peopleOfTeam(state, id);
  const agent = state.agents.get(id);
  return agent === undefined || agent.retired ? [] : [agent];
}

/** Its people, teams by their people, in the order of the group. */
export function peopleOfGroup(state: Readonly<State>, { item }: RingGroup): Agent[] {
  return [...new Set(item.targets.flatMap((target) => peopleOfTarget(state, target)))];
}

/** What of a group could ring one day: phones of its people, and numbers outside; and whether all its people sit out. */
export function reachOf(state: Readonly<State>, group: RingGroup): { phones: number; allSitOut: boolean } {
  const people = peopleOfGroup(state, group);
  const outside = group.item.targets.filter(
    ({ kind, id }) => kind === 'outside' && state.outsideNumbers.has(id),
  ).length;
  return {
    phones: people.filter(({ phone }) => phone.state !== 'none').length + outside,
    allSitOut: outside === 0 && people.every(({ person }) => group.sitOut.includes(person.id)),
  };
}

/** The groups somebody is a member of. */
export function groupsOf(state: Readonly<State>, personId: string): RingGroup[] {
  return [...state.ringGroups.values()].filter((group) => isMember(state, group, personId));
}

/** A member takes part again, or sits out: calls of the group do not ring them then. What rings them already rings on. */
export function setGroupPresence(
  state: State,
  groupId: string,
  personId: string,
  takesPart: boolean,
): Refusal | null {
  const group = state.ringGroups.get(groupId);
  if (group === undefined) return 'unknownRingGroup';
  if (!isMember(state, group, personId)) return 'notAMember';
  const others = group.sitOut.filter((each) => each !== personId);
  group.sitOut = takesPart ? others : [...others, personId];
  effect(state, { kind: 'groupPresence', groupId, personId, takesPart });
  return null;
}

/** The group whose phones ring for a call, or rang for it last; null for calls of no group. */
export function groupOf(state: Readonly<State>, call: Readonly<Call>): RingGroup | null {
  const frame = call.route.at(-1);
  const step = frame?.plan.steps[frame.stepId];
  return step?.kind === 'ringGroup' ? (state.ringGroups.get(step.config.groupId as string) ?? null) : null;
}

/** Somebody answered a call; where it was one of a group, the next goes round from behind them. */
export function answeredForGroup(state: State, call: Call, id: string): void {
  const group = call.queue === null ? groupOf(state, call) : null;
  if (group !== null) group.lastAnswered = id;
}

/** So did a number outside that the group rang. */
export function outsideAnsweredForGroup(state: State, call: Call): void {
  const memory = call.route.at(-1)?.memory as { outsideId?: string | null } | null;
  if (memory?.outsideId != null) answeredForGroup(state, call, memory.outsideId);
}

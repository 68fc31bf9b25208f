import type { RingGroupItem } from '../../model/ring-group.ts';
import type { StandsAgainst } from '../../story/records.ts';
import { type RingTarget } from '../../model/ring.ts';
import { type RingMissWhy, roundRobin, strongerMiss, type Turn, turnFrom, turnsOf } from '../ring.ts';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = { groupId: { type: 'item', of: 'ringGroup', label: 'Ring group' } } as const;

/** How far a call has come in a group. */
interface Memory extends Turn {
  /** Of round robin, who rings one after the other, as it was when the call came: no later call changes it. */
  list: readonly RingTarget[] | null;
  /** What the turns so far came to. */
  missed: RingMissWhy;
  /** Who could not be rung since the last turn that rang. */
  passed: readonly StandsAgainst[];
  /** The number outside that rings now. */
  outsideId: string | null;
}

function turnsNow({ targets, order }: RingGroupItem, { list }: Memory): readonly (readonly RingTarget[])[] {
  if (list !== null) return list.map((target) => [target]);
  return turnsOf({ targets, order: order === 'roundRobin' ? 'inTurn' : order });
}

function listOf(context: StepContext, groupId: string): readonly RingTarget[] | null {
  const group = context.ringGroup(groupId);
  return group?.order === 'roundRobin'
    ? roundRobin(group.targets, (teamId) => context.peopleOf(teamId), context.answeredLast(groupId))
    : null;
}

/** The next turn, until all rounds are over; then the way out by what they came to. */
function ring(context: StepContext, groupId: string, memory: Memory): Next<Memory> {
  const group = context.ringGroup(groupId);
  if (group === undefined) return { exit: gone.name };
  const now = turnFrom(turnsNow(group, memory), group.rounds, memory);
  if (now === null) {
    const { missed, passed } = memory;
    const way = missed === 'busy' || missed === 'outage' ? missed : 'notTaken';
    context.note({ kind: 'groupNotTaken', name: group.name, way, not: [...passed] });
    return { exit: way };
  }
  const { turn, round, of: targets } = now;
  const [first] = targets;
  const at = { ...memory, turn, round, outsideId: null };
  if (first!.kind !== 'outside') {
    const { passed } = memory;
    const begin = { kind: 'ringSeveral', targets, round, rounds: group.rounds, groupId, passed } as const;
    return { begin, remember: { ...at, passed: [] } };
  }
  if (!context.has('outside', first!.id))
    return ring(context, groupId, { ...at, turn: turn + 1, missed: strongerMiss(memory.missed, 'outage') });
  const { passed } = memory;
  // Why nobody before this number rang would else be said nowhere, once it is lifted.
  if (passed.length > 0)
    context.note({ kind: 'ringsSeveral', round, rounds: group.rounds, rung: [], not: [...passed] });
  return {
    begin: { kind: 'dialOut', outsideId: first!.id, seconds: first!.seconds },
    remember: { ...at, passed: [], outsideId: first!.id },
  };
}

/** Rings a ring group as it is set; where the plan leaves a way open, the group's own is taken. */
export const ringGroup: StepKind<typeof fields, Memory> = {
  kind: 'ringGroup',
  word: 'Ring group',
  fields,
  exits: () => [
    { name: 'notTaken', label: 'nobody lifts' },
    { name: 'busy', label: 'all are busy' },
    { name: 'outage', label: 'no phone or line' },
    gone,
  ],
  main: 'notTaken',
  fresh: { groupId: '' },
  destination: ({ groupId }) => ({ kind: 'ringGroup', id: groupId }),
  enter: (context, { groupId }) =>
    ring(context, groupId, {
      ...{ turn: 0, round: 1, list: listOf(context, groupId), missed: null, passed: [] },
      outsideId: null,
    }),
  on: {
    exit: (context, { groupId }, memory, _exit, miss) => {
      const missed = strongerMiss(memory.missed, miss?.why ?? null);
      return ring(context, groupId, { ...memory, turn: memory.turn + 1, missed, passed: miss?.not ?? [] });
    },
  },
  whenOpen: (exit, { groupId }, context) => {
    const group = context.ringGroup(groupId);
    if (group === undefined || exit === gone.name) return endWhenOpen(gone.name);
    const own = { busy: group.whenBusy, outage: group.whenOutage }[exit] ?? null;
    if (own !== null) return { goTo: own };
    return exit === 'notTaken' ? { goTo: group.whenUnanswered } : { exit: 'notTaken' };
  },
  describe: ({ groupId }, names) => `Ring ${names('ringGroup', groupId)}`,
};

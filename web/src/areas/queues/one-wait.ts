import type { QueueRequest } from '@night-bell/core/contracts/queues';
import { minimumAfter, stagesOf } from '@night-bell/core/distribute/stages';

/** Longer waits are not drawn to their end. */
const longestDrawn = 600;
const shortestDrawn = 120;
/** More announcements are said in words. */
const mostKnots = 8;

/** How many members stand on a line together, by when they join and in which turn. */
export interface WaitRow {
  turn: number;
  from: number;
  memberIds: string[];
}

/** One caller's wait in a queue as it would be, by seconds. */
export interface OneWait {
  /** Where the drawing ends. */
  until: number;
  /** Whether the wait ends there. */
  ends: boolean;
  rows: WaitRow[];
  /** What is asked for of each skill, from when on. */
  levels: { skillId: string; from: number; minimum: number }[];
  /** When something is announced, as far as it is drawn. */
  knots: number[];
  stages: number[];
}

type Drawn = Pick<
  QueueRequest,
  'members' | 'turns' | 'joins' | 'skills' | 'maxWaitSeconds' | 'announceSeconds'
>;

/** Fields are half typed now and then: what is no number of seconds is not drawn. */
const isTime = (value: unknown): value is number => typeof value === 'number' && value > 0;

export function oneWait(draft: Drawn): OneWait {
  const joins = new Map(draft.joins.map(({ memberId, afterSeconds }) => [memberId, afterSeconds]));
  const turns = new Map(draft.turns.map(({ memberId, turn }) => [memberId, turn]));
  const skills = draft.skills.map(({ skillId, minimum, relaxes }) => ({
    ...{ skillId, minimum, name: '' },
    relaxes: relaxes.filter((step) => isTime(step.afterSeconds)),
  }));
  const stages = stagesOf({ skills, joinsAfter: [...joins.values()].filter(isTime) });
  const every = isTime(draft.announceSeconds) ? draft.announceSeconds : null;
  const ends = isTime(draft.maxWaitSeconds) && draft.maxWaitSeconds <= longestDrawn;
  const until = ends
    ? draft.maxWaitSeconds!
    : Math.min(longestDrawn, Math.max(shortestDrawn, (stages.at(-1) ?? 0) * 1.3, (every ?? 0) * 3.5));
  const rows: WaitRow[] = [];
  for (const memberId of draft.members) {
    const from = joins.get(memberId) ?? 0;
    const turn = turns.get(memberId) ?? 1;
    const row = rows.find((each) => each.from === from && each.turn === turn);
    if (row === undefined) rows.push({ turn, from, memberIds: [memberId] });
    else row.memberIds.push(memberId);
  }
  rows.sort((one, other) => one.turn - other.turn || one.from - other.from);
  const levels = skills.flatMap((skill) =>
    [0, ...skill.relaxes.map(({ afterSeconds }) => afterSeconds)].map((from) => ({
      ...{ skillId: skill.skillId, from, minimum: minimumAfter(skill, from) },
    })),
  );
  const count = every === null ? 0 : Math.floor((until - 1) / every);
  const knots = Array.from({ length: Math.min(count, mostKnots) }, (_, i) => (i + 1) * every!);
  return { until, ends, rows, levels, knots, stages: stages.filter((from) => from < until) };
}

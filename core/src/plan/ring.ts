import type { RingSettings, RingTarget } from '../model/ring.ts';

/** Which turn of which round rings. */
export interface Turn {
  turn: number;
  round: number;
}

/** Why a turn came to nothing: phones rang, or were busy, or could not be reached; null where nobody was to be rung. */
export type RingMissWhy = 'rang' | 'busy' | 'outage' | null;

const misses: readonly RingMissWhy[] = [null, 'outage', 'busy', 'rang'];

/** Of two reasons, what a caller would say: that it rang, else that it was busy, else that nobody could be reached. */
export function strongerMiss(one: RingMissWhy, other: RingMissWhy): RingMissWhy {
  return misses.indexOf(other) > misses.indexOf(one) ? other : one;
}

/**
 * Who rings together, turn by turn, of one round. A number outside is a turn of its own, after those who ring at once:
 * whoever answers there may be a machine, and would take the call from everybody else.
 */
export function turnsOf({ targets, order }: Omit<RingSettings, 'rounds'>): RingTarget[][] {
  if (order === 'inTurn') return targets.map((target) => [target]);
  const inside = targets.filter(({ kind }) => kind !== 'outside');
  const outside = targets.filter(({ kind }) => kind === 'outside').map((target) => [target]);
  return inside.length === 0 ? outside : [inside, ...outside];
}

/** Phones that ring one by one in a round, at most: a caller hears none of them longer than that. */
const mostInTurn = 100;

/**
 * Round robin: one phone after the other, those of a team by themselves, beginning behind `last`, who answered last
 * (docs/definitions.md, "Choosing an agent"). Whoever is named twice stands where they are named first.
 */
export function roundRobin(
  targets: readonly RingTarget[],
  peopleOf: (teamId: string) => readonly string[],
  last: string | null,
): RingTarget[] {
  const each = new Map<string, RingTarget>();
  for (const target of targets) {
    const ids = target.kind === 'team' ? peopleOf(target.id) : [target.id];
    const kind = target.kind === 'outside' ? 'outside' : 'person';
    for (const id of ids) if (!each.has(id)) each.set(id, { kind, id, seconds: target.seconds });
  }
  const list = [...each.values()];
  const from = list.findIndex(({ id }) => id === last) + 1;
  return [...list.slice(from), ...list.slice(0, from)].slice(0, mostInTurn);
}

/** The turn that rings from `at` on, in this round or a later one; null when all rounds are over. */
export function turnFrom<T>(
  turns: readonly T[],
  rounds: number,
  { turn, round }: Turn,
): (Turn & { of: T }) | null {
  if (turns.length === 0) return null;
  const at = turn < turns.length ? { turn, round } : { turn: 0, round: round + 1 };
  return at.round > rounds ? null : { ...at, of: turns[at.turn]! };
}

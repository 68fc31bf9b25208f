/** Who is rung for how long: a person, everybody of a team, or a number outside. */
export interface RingTarget {
  kind: 'person' | 'team' | 'outside';
  id: string;
  seconds: number;
}

export const ringTargetKinds = ['person', 'team', 'outside'] as const;
export const ringSeconds = { least: 3, most: 120, usual: 20 } as const;
export const mostTargets = 20;

/** How a few phones ring: a step of a plan, or a group with a name of its own. */
export interface RingSettings {
  targets: readonly RingTarget[];
  order: RingOrder;
  rounds: number;
}

export type RingOrder = 'allAtOnce' | 'inTurn';

export const ringOrders = [
  { value: 'allAtOnce', title: 'all at once' },
  { value: 'inTurn', title: 'one after the other' },
] as const;

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

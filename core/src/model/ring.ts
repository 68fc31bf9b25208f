/** Who is rung for how long: a person, everybody of a team, or a number outside. */
export interface RingTarget {
  kind: 'person' | 'team' | 'outside';
  id: string;
  seconds: number;
}

export const ringTargetKinds = ['person', 'team', 'outside'] as const;
export const ringSeconds = { least: 3, most: 120, usual: 20 } as const;
export const mostTargets = 20;
export const mostRounds = 5;
/** Phones that ring together; of a larger team the first by name. */
export const mostTogether = 50;

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

export type GroupOrder = RingOrder | 'roundRobin';

/** A group with a name also goes round. */
export const groupOrders = [
  ...ringOrders,
  { value: 'roundRobin', title: 'in turn, behind who answered last' },
] as const satisfies readonly { value: GroupOrder; title: string }[];

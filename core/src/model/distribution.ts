/** The ways in which a queue chooses who rings (docs/definitions.md, "Choosing an agent"). */
export const distributionKinds = [
  'longestIdle',
  'roundRobin',
  'inOrder',
  'allAtOnce',
  'random',
  'fewestCalls',
  'bestSkill',
] as const;
export type DistributionKind = (typeof distributionKinds)[number];

/** All were rung together and nobody lifted: they are rung again after this long. */
export const ringsAgainAfterSeconds = 5;
/** Members have turns from 1 to this. */
export const lastTurn = 9;
/** How many phones ring together at most, unless the queue says less. */
export const mostRung = 50;
export const usuallyRung = 10;

import type { DistributionKind } from '../model/distribution.ts';
import { allAtOnce } from './all-at-once.ts';
import { bestSkill } from './best-skill.ts';
import type { Distribution } from './distribution.ts';
import { fewestCalls } from './fewest-calls.ts';
import { inOrder } from './in-order.ts';
import { longestIdle } from './longest-idle.ts';
import { randomDraw } from './random-draw.ts';
import { roundRobin } from './round-robin.ts';

/** The only list of distributions. */
export const distributions: Readonly<Record<DistributionKind, Distribution>> = {
  ...{ longestIdle, roundRobin, inOrder, allAtOnce },
  ...{ random: randomDraw, fewestCalls, bestSkill },
};

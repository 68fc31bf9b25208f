import type { Distribution } from './distribution.ts';
import { compared } from './in-turns.ts';
import { longerIdle } from './longest-idle.ts';

/** All of the first turn that has somebody are rung, up to the queue's bound; beyond it those idle longest. */
export const allAtOnce: Distribution = { kind: 'allAtOnce', ring: 'all', makeIndex: compared(longerIdle) };

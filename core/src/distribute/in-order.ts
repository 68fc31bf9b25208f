import type { Distribution } from './distribution.ts';
import { compared, earlierListed } from './in-turns.ts';

/** As listed, from the top for every call. */
export const inOrder: Distribution = { kind: 'inOrder', ring: 'one', makeIndex: compared(earlierListed) };

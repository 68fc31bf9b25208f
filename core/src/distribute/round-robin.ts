import type { Distribution, Member } from './distribution.ts';
import { ArrangedIndex } from './in-turns.ts';

/** As listed, from behind `last` around to `last`. */
function* behind<M extends Member>(members: readonly M[], last: number): Generator<M> {
  let first = members.findIndex(({ order }) => order > last);
  if (first < 0) first = 0;
  for (let i = 0; i < members.length; i++) yield members[(first + i) % members.length]!;
}

/**
 * Goes on behind the member who answered last; who cannot be rung is passed over, and moves nothing
 * (docs/definitions.md, "Choosing an agent").
 */
export const roundRobin: Distribution = {
  kind: 'roundRobin',
  ring: 'one',
  makeIndex: (past) => new ArrangedIndex(past, (members, { lastAnswered }) => behind(members, lastAnswered)),
};

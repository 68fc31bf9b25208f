import { seededRandom } from '../random/random.ts';
import type { Distribution, Member } from './distribution.ts';
import { ArrangedIndex } from './in-turns.ts';

/**
 * A draw without replacement, each order equally likely: Fisher and Yates (1938) in Durstenfeld's form (CACM 7, 1964),
 * as far as is asked for. What was moved is kept apart, so that the first costs the same however many there are.
 */
function* drawn<M extends Member>(members: readonly M[], seed: number): Generator<M> {
  const random = seededRandom(seed);
  const moved = new Map<number, M>();
  for (let left = members.length; left > 0; left--) {
    const at = Math.floor(random() * left);
    yield moved.get(at) ?? members[at]!;
    moved.set(at, moved.get(left - 1) ?? members[left - 1]!);
  }
}

/** Uniform among the eligible, anew for each choice, from the queue's seed: the same seed chooses the same. */
export const randomDraw: Distribution = {
  kind: 'random',
  ring: 'one',
  makeIndex: (past) => new ArrangedIndex(past, (members, { draw }) => drawn(members, draw)),
};

/** The seed of the `count`-th choice of a queue whose own is `seed`. */
export function drawOf(seed: number, count: number): number {
  // The golden ratio's share of 2^32 keeps the seeds of following choices far apart (Knuth, TAOCP 3, 6.4).
  return (seed + Math.imul(count, 0x9e3779b9)) >>> 0;
}

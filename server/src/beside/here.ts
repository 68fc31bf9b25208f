import type { Database } from '../database/connection.ts';
import type { Beside } from './beside.ts';
import { Follower } from './follower.ts';

/** The work in this thread: for tests, which want to see into it. */
export function besideHere(database: Database): Beside {
  const follower = new Follower(database);
  return {
    hours: (asked) => follower.hours(asked),
    testCall: (asked) => follower.testCall(asked),
    home: (asked) => follower.homeText(asked),
    setUpDifference: (seq) => follower.setUpDifference(seq),
    // Nobody is in a hurry here: it follows when it is asked something.
    committed: () => undefined,
    reset: () => follower.reset(),
    close: () => Promise.resolve(),
  };
}

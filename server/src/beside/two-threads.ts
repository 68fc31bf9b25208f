import type { Logger } from 'pino';
import type { Beside } from './beside.ts';
import type { ThreadData } from './messages.ts';
import { BesideThread } from './thread-client.ts';

/**
 * Two threads beside the live loop: what somebody waits for with their eyes on it never stands behind what takes seconds
 * with many thousand people. The slow one leaves the checkpoints.
 */
export function twoThreads(file: URL, data: ThreadData, logger: Logger): Beside {
  const quick = new BesideThread(file, data, logger);
  const slow = new BesideThread(file, data, logger);
  return {
    testCall: (asked) => quick.testCall(asked),
    hours: (asked) => slow.hours(asked),
    home: (asked) => slow.home(asked),
    setUpDifference: (seq) => slow.setUpDifference(seq),
    committed: (seq, hosting) => {
      quick.committed(seq, false);
      slow.committed(seq, hosting);
    },
    reset: () => {
      quick.reset();
      slow.reset();
    },
    close: async () => {
      await Promise.all([quick.close(), slow.close()]);
    },
  };
}

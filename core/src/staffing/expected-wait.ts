/** What was measured of a queue's calls. */
export interface Measured {
  /** Calls talked and wrapped up, and how long that took in all (ms). */
  handled: number;
  handledMs: number;
  /** How long everybody waited in all (ms), and how many gave up. */
  waitedMs: number;
  abandoned: number;
  /** Calls that waited and were answered or gave up. */
  waited: number;
}

export const nothingMeasured: Measured = { handled: 0, handledMs: 0, waitedMs: 0, abandoned: 0, waited: 0 };

/** Fewer say nothing. */
export const fewestMeasured = 20;

/**
 * The expected wait of a caller in milliseconds: with n ahead, c agents signed in and not away, mean handling h and
 * abandonment rate theta (those who gave up per time waited by everybody), the sum for i = 0..n of 1 / (c/h + i theta).
 * Each term is how long it takes until one of those in front is served or gives up (a pure death process).
 *
 * @returns null where it cannot be known: nobody there, or fewer than 20 calls measured
 */
export function expectedWaitMs(ahead: number, agents: number, measured: Measured): number | null {
  const { handled, handledMs, waitedMs, abandoned } = measured;
  if (agents <= 0 || handled < fewestMeasured || handledMs <= 0) return null;
  const served = agents / (handledMs / handled);
  const theta = waitedMs > 0 ? abandoned / waitedMs : 0;
  let wait = 0;
  for (let i = 0; i <= ahead; i++) wait += 1 / (served + i * theta);
  return wait;
}

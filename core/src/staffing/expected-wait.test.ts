import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { expectedWaitMs, type Measured, nothingMeasured } from './expected-wait.ts';

/** 100 calls of 240 s each; nobody gave up unless said. */
const measured = (more: Partial<Measured> = {}): Measured => ({
  ...{ handled: 100, handledMs: 100 * 240_000, waited: 100, waitedMs: 100 * 60_000, abandoned: 0 },
  ...more,
});

describe('the expected wait', () => {
  test('with nobody ahead and nobody giving up is handling by agents', () => {
    expect(expectedWaitMs(0, 4, measured())).toBeCloseTo(60_000, 6);
  });

  test('grows by as much for each who is ahead', () => {
    expect(expectedWaitMs(3, 4, measured())).toBeCloseTo(240_000, 6);
  });

  test('those who give up make it shorter: each of those ahead goes at theta too', () => {
    // theta = 10 / 6,000 s; c/h = 4 / 240 s: 60 + 1/(1/60 + 1/600) + 1/(1/60 + 2/600).
    const wait = expectedWaitMs(2, 4, measured({ abandoned: 10 }))!;
    expect(wait / 1_000).toBeCloseTo(60 + 600 / 11 + 50, 6);
  });

  test('is not known with nobody there, nor with fewer than 20 calls measured', () => {
    expect(expectedWaitMs(2, 0, measured())).toBeNull();
    expect(expectedWaitMs(0, 4, nothingMeasured)).toBeNull();
    expect(expectedWaitMs(0, 4, measured({ handled: 19, handledMs: 19 * 240_000 }))).toBeNull();
    expect(expectedWaitMs(0, 4, measured({ handled: 20, handledMs: 20 * 240_000 }))).not.toBeNull();
  });

  test('more ahead never make it shorter, more agents or more who give up never longer', () => {
    fc.assert(
      fc.property(fc.nat(50), fc.integer({ min: 1, max: 60 }), fc.nat(90), (ahead, agents, abandoned) => {
        const wait = expectedWaitMs(ahead, agents, measured({ abandoned }))!;
        expect(expectedWaitMs(ahead + 1, agents, measured({ abandoned }))!).toBeGreaterThan(wait);
        expect(expectedWaitMs(ahead, agents + 1, measured({ abandoned }))!).toBeLessThan(wait);
        expect(expectedWaitMs(ahead, agents, measured({ abandoned: abandoned + 1 }))!).toBeLessThanOrEqual(
          wait,
        );
      }),
    );
  });
});

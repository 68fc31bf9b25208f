import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  Bench,
  callerNumber,
  configuration,
  directNumber,
  mainNumber,
  person,
  queue,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import { usualProfile } from './behaviour.ts';
import { rehearseDay } from './day.ts';
import { exponential, logNormal, rehearsedUuid, seededRandom } from '../random/random.ts';
import { testCallAt, testCallNow } from './test-call.ts';

const hour = 3_600_000;
const set = configuration(
  [person('a'), person('b')],
  [queue('q', ['a', 'b'], { maxWaitSeconds: 120, whenTooLong: { kind: 'voicemail', id: 'a.box' } })],
);
const talkMs = () => 180_000;

describe('a test call now', () => {
  test('names the agent the live exchange would ring, and leaves it untouched', () => {
    const bench = new Bench(set);
    bench.register(0, 'b');
    bench.register(1, 'a');
    const before = JSON.stringify(bench.exchange.snapshot());
    const result = testCallNow(bench.exchange, { to: mainNumber, from: callerNumber, at: 10_000 }, talkMs);
    expect(result.outcome).toEqual({ kind: 'answered', personId: 'b', name: 'Person b', afterMs: 5_000 });
    expect(JSON.stringify(bench.exchange.snapshot())).toBe(before);
    bench.call(10);
    expect(bench.rung()).toEqual(['b']);
  });

  test('waits for talks under way, which end at their mean, and for wrap-ups', () => {
    const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
    bench.register(0, 'a');
    bench.call(0);
    bench.at(1, { kind: 'legAnswered', leg: bench.lastLeg() });
    const { outcome } = testCallNow(
      bench.exchange,
      { to: mainNumber, from: callerNumber, at: 61_000 },
      talkMs,
    );
    // The talk ends 180 s after it began, 10 s of wrap-up, 5 s until the phone is lifted.
    expect(outcome).toMatchObject({ kind: 'answered', afterMs: (1 + 180 + 10 + 5 - 61) * 1000 });
  });

  test('says when it leads nowhere or to voicemail', () => {
    const bench = new Bench(set);
    expect(
      testCallNow(bench.exchange, { to: unroutedNumber, from: callerNumber, at: 0 }, talkMs).outcome,
    ).toEqual({ kind: 'ended', result: 'unroutable', afterMs: 0 });
    expect(
      testCallNow(bench.exchange, { to: directNumber, from: callerNumber, at: 0 }, talkMs).outcome,
    ).toMatchObject({ kind: 'voicemail' });
    expect(
      testCallNow(bench.exchange, { to: mainNumber, from: callerNumber, at: 0 }, talkMs).outcome,
    ).toEqual({
      kind: 'voicemail',
      name: "Person a's voicemail",
      afterMs: 120_000,
    });
  });
});

test('a test call at another moment has everybody signed in and free', () => {
  const result = testCallAt(set, { to: mainNumber, from: callerNumber, at: 1_000_000 }, talkMs);
  expect(result.outcome).toMatchObject({ kind: 'answered', personId: 'a', afterMs: 5_000 });
  expect(result.assumptions).toContain('everybodySignedInAndFree');
});

describe('a rehearsed day', () => {
  const day = {
    configuration: set,
    hourStarts: Array.from({ length: 25 }, (_, index) => index * hour),
    arrivals: [
      {
        to: mainNumber,
        perHour: Array.from({ length: 24 }, (_, index) => (index >= 8 && index < 18 ? 20 : 1)),
      },
    ],
    shifts: ['a', 'b'].map((personId) => ({ personId, from: 8 * hour, to: 18 * hour })),
    profile: usualProfile,
    caller: () => callerNumber,
  };

  test('is the same for the same seed, another for another, and every call ends', () => {
    const run = (seed: number) => JSON.stringify(rehearseDay(day, seededRandom(seed)));
    expect(run(1)).toBe(run(1));
    expect(run(1)).not.toBe(run(2));
  });

  test('gives the exchange what it decides: nobody answers outside the shifts', () => {
    const calls = rehearseDay(day, seededRandom(3));
    expect(calls.length).toBeGreaterThan(150);
    const answered = calls.filter(({ facts }) => facts.result === 'answered');
    expect(answered.length).toBeGreaterThan(100);
    for (const { facts, story } of calls) {
      expect(story[0]!.kind).toBe('arrived');
      expect(story.at(-1)!.kind).toBe('ended');
      if (facts.answeredAt !== null) expect(facts.answeredAt).toBeGreaterThanOrEqual(8 * hour);
    }
  });
});

describe('draws', () => {
  test('have the means they are asked for', () => {
    const random = seededRandom(7);
    const mean = (draw: () => number) =>
      Array.from({ length: 40_000 }, draw).reduce((sum, each) => sum + each, 0) / 40_000;
    expect(mean(() => exponential(random, 10))).toBeCloseTo(10, 0);
    expect(mean(() => logNormal(random, 195, 0.8)) / 195).toBeCloseTo(1, 1);
  });

  test('ids are UUIDs of version 7 that carry their time', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2 ** 45 }), fc.integer(), (at, seed) => {
        const uuid = rehearsedUuid(at, seededRandom(seed));
        expect(uuid).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
        expect(parseInt(uuid.replace(/-/g, '').slice(0, 12), 16)).toBe(at);
      }),
    );
  });
});

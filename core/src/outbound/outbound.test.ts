import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { clockOf } from '../hours/zone-clock.testing.ts';
import { localReading, type ZoneClock } from '../hours/zone-clock.ts';
import { abandonRate, callsToLaunch, paceOf } from './pacing.ts';
import { afterAttempt } from './retry.ts';
import { nextCallable, usualCallingHours } from './window.ts';

const pacific = clockOf('America/Los_Angeles');
const newfoundland = clockOf('America/St_Johns');
const sydney = clockOf('Australia/Sydney');
const clocks = [pacific, newfoundland, sydney, clockOf('Europe/London')];

const minuteOf = (clock: ZoneClock, at: number) => (localReading(clock, at) % 86_400_000) / 60_000;

describe('calling hours', () => {
  test('8:00 to 21:00 at the contact’s own clock, half-open', () => {
    const at = (hour: number, minute = 0, second = 0) => Date.UTC(2026, 10, 24, hour + 8, minute, second);
    expect(nextCallable(at(7, 59, 59), [pacific], usualCallingHours)).toEqual({ from: at(8), until: at(21) });
    expect(nextCallable(at(8), [pacific], usualCallingHours)).toEqual({ from: at(8), until: at(21) });
    expect(nextCallable(at(20, 59, 59), [pacific], usualCallingHours)!.from).toBe(at(20, 59, 59));
    expect(nextCallable(at(21), [pacific], usualCallingHours)!.from).toBe(at(32));
  });

  test('a number that may be in two zones satisfies both', () => {
    const { from, until } = nextCallable(
      Date.UTC(2026, 10, 24, 3),
      [pacific, newfoundland],
      usualCallingHours,
    )!;
    expect([minuteOf(pacific, from), minuteOf(newfoundland, until)]).toEqual([480, 1_260]);
  });

  test('hours that zones never share give nothing, and so does no zone at all', () => {
    expect(nextCallable(Date.UTC(2026, 10, 24), [pacific, sydney], { from: 600, to: 660 })).toBeNull();
    expect(nextCallable(Date.UTC(2026, 10, 24), [], usualCallingHours)).toBeNull();
  });

  test('whatever the zones, the stretch lies within the hours of all, and begins as early as it can', () => {
    const some = fc.subarray(clocks, { minLength: 1 });
    const instant = fc.integer({ min: Date.UTC(2026, 1, 1), max: Date.UTC(2027, 10, 1) });
    fc.assert(
      fc.property(instant, some, (at, chosen) => {
        const found = nextCallable(at, chosen, usualCallingHours);
        const within = (moment: number) =>
          chosen.every((clock) => minuteOf(clock, moment) >= 480 && minuteOf(clock, moment) < 1_260);
        if (found === null) {
          for (let moment = at; moment < at + 86_400_000; moment += 900_000)
            expect(within(moment)).toBe(false);
          return;
        }
        expect(found.from).toBeGreaterThanOrEqual(at);
        for (const moment of [found.from, found.until - 1]) expect(within(moment)).toBe(true);
        expect(within(found.until)).toBe(false);
        if (found.from > at) expect(within(found.from - 1)).toBe(false);
      }),
      { numRuns: 400 },
    );
  });
});

describe('after an attempt', () => {
  const rules = { attempts: 3, retryMinutes: 240, hours: usualCallingHours };
  const noon = Date.UTC(2026, 10, 24, 20);

  test('a talk is the end; a wrong number too; who rang out is due after the gap, in hours', () => {
    expect(afterAttempt('answered', 1, noon, [pacific], rules)).toEqual({ state: 'talked', dueAt: null });
    expect(afterAttempt('noRoute', 1, noon, [pacific], rules)).toEqual({ state: 'invalid', dueAt: null });
    expect(afterAttempt('noAnswer', 1, noon, [pacific], rules).dueAt).toBe(noon + 4 * 3_600_000);
    const evening = noon + 8 * 3_600_000;
    expect(minuteOf(pacific, afterAttempt('noAnswer', 1, evening, [pacific], rules).dueAt!)).toBe(480);
  });

  test('a busy line is tried sooner, and nobody more often than allowed', () => {
    expect(afterAttempt('busy', 1, noon, [pacific], rules).dueAt).toBe(noon + 15 * 60_000);
    expect(afterAttempt('busy', 1, noon, [pacific], { ...rules, retryMinutes: 5 }).dueAt).toBe(
      noon + 300_000,
    );
    expect(afterAttempt('machine', 3, noon, [pacific], rules)).toEqual({ state: 'unreached', dueAt: null });
  });
});

describe('pacing', () => {
  test('keeps floor(ratio x free agents) in the air and never cancels', () => {
    const pace = paceOf(1.4, 0.03, [], 0);
    expect(callsToLaunch(pace, 5, 0, 0, 99)).toBe(7);
    expect(callsToLaunch(pace, 5, 6, 0, 99)).toBe(1);
    expect(callsToLaunch(pace, 1, 6, 0, 99)).toBe(0);
    expect(callsToLaunch(pace, 5, 0, 0, 2)).toBe(2);
    expect(callsToLaunch(paceOf(1.1, 0.03, [], 0), 10, 0, 0, 99)).toBe(11);
  });

  test('with an agent kept for each call nobody is promised twice', () => {
    const kept = fc.record({
      free: fc.nat({ max: 50 }),
      inAir: fc.nat({ max: 50 }),
      reservations: fc.nat({ max: 50 }),
      ratio: fc.double({ min: 0.1, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(kept, ({ free, inAir, reservations, ratio }) => {
        const due = callsToLaunch(paceOf(ratio, 0.03, [], 0), free, inAir, reservations, 1_000);
        expect(due === 0 || due + inAir <= free).toBe(true);
        expect(due === 0 || due + reservations <= ratio * (free + reservations) + 1e-6).toBe(true);
      }),
    );
  });

  test('the limit holds for today and for thirty days, whichever is worse', () => {
    const tallies = [
      { day: 70, answered: 100, abandoned: 2 },
      { day: 99, answered: 50, abandoned: 3 },
      { day: 100, answered: 10, abandoned: 0 },
    ];
    expect(abandonRate(tallies, 100, 30)).toBeCloseTo(3 / 60);
    expect(abandonRate(tallies, 99, 30)).toBeCloseTo(5 / 150);
    expect(paceOf(2, 0.03, tallies, 100)).toEqual({ ratio: 1, reserve: true, why: 'atLimit' });
    expect(paceOf(2, 0.06, tallies, 100)).toEqual({ ratio: 2, reserve: false, why: 'ratio' });
    expect(paceOf(2, 0, [], 100).why).toBe('atLimit');
    expect(paceOf(1, 0.03, [], 100).why).toBe('oneEach');
  });
});

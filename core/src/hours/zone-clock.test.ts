import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { clockOf, platformReading } from './zone-clock.testing.ts';
import { dayBegins, instantOfReading, localDay, localReading } from './zone-clock.ts';

const zones = ['America/Los_Angeles', 'America/St_Johns', 'Europe/London', 'Australia/Lord_Howe', 'UTC'];
const clocks = zones.map((zone) => clockOf(zone));
const instant = fc.integer({ min: Date.UTC(2026, 0, 3), max: Date.UTC(2027, 11, 28) });

describe('a zone clock', () => {
  test('shows what the platform shows', () => {
    fc.assert(
      fc.property(instant, fc.constantFrom(...clocks), (at, clock) => {
        expect(localReading(clock, at)).toBe(platformReading(clock.zone, at));
      }),
    );
  });

  test('a reading leads back to an instant that shows it, the earlier one where it comes twice', () => {
    fc.assert(
      fc.property(instant, fc.constantFrom(...clocks), (at, clock) => {
        const found = instantOfReading(clock, localReading(clock, at));
        expect(localReading(clock, found)).toBe(localReading(clock, at));
        expect(found).toBeLessThanOrEqual(at);
      }),
      { numRuns: 500 },
    );
  });

  test('a reading that spring skips is the instant of the jump; one that autumn repeats, the first', () => {
    const pacific = clocks[0]!;
    const jump = Date.UTC(2026, 2, 8, 10);
    expect(instantOfReading(pacific, Date.UTC(2026, 2, 8, 2, 30))).toBe(jump);
    expect(instantOfReading(pacific, Date.UTC(2026, 2, 8, 3))).toBe(jump);
    expect(instantOfReading(pacific, Date.UTC(2026, 10, 1, 1, 30))).toBe(Date.UTC(2026, 10, 1, 8, 30));
  });

  test('days begin where their number changes', () => {
    fc.assert(
      fc.property(instant, fc.constantFrom(...clocks), (at, clock) => {
        const day = localDay(clock, at);
        const begins = dayBegins(clock, day);
        expect(localDay(clock, begins)).toBe(day);
        expect(localDay(clock, begins - 1)).toBe(day - 1);
      }),
    );
  });
});

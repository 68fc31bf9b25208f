import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { callBefore, servedBefore } from './order.ts';

const caller = fc.record({
  id: fc.uuid(),
  priority: fc.integer({ min: 0, max: 9 }),
  enteredAt: fc.integer({ min: 0, max: 600_000 }),
});
const ranked = fc.record({
  priority: fc.integer({ min: 0, max: 2 }),
  agePoints: fc.integer({ min: 0, max: 9 }),
  agesAcross: fc.boolean(),
});

describe('the order of callers', () => {
  test('is one order: of two, one comes first; and of three it does not go round', () => {
    fc.assert(
      fc.property(caller, caller, caller, fc.integer({ min: 0, max: 9 }), (a, b, c, points) => {
        if (a.id !== b.id) expect(callBefore(a, b, points)).toBe(!callBefore(b, a, points));
        if (callBefore(a, b, points) && callBefore(b, c, points)) expect(callBefore(a, c, points)).toBe(true);
      }),
    );
  });

  test('with age, is that of priority and points at any instant: it never changes while they wait', () => {
    fc.assert(
      fc.property(
        caller,
        caller,
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 600_000, max: 9e6 }),
        (a, b, points, now) => {
          const aged = ({ priority, enteredAt }: typeof a) => priority * 60_000 + points * (now - enteredAt);
          if (aged(a) !== aged(b)) expect(callBefore(a, b, points)).toBe(aged(a) > aged(b));
        },
      ),
    );
  });

  test('nobody starves: whoever has waited long enough comes before any newcomer', () => {
    const old = { id: 'o', priority: 0, enteredAt: 0 };
    const late = (enteredAt: number) => ({ id: 'l', priority: 9, enteredAt });
    // 9 points at 2 a minute are 4.5 minutes.
    expect(callBefore(old, late(269_999), 2)).toBe(false);
    expect(callBefore(old, late(270_001), 2)).toBe(true);
    expect(callBefore(old, late(270_000), 2)).toBe(true);
    expect(callBefore(old, late(9e9), 0)).toBe(false);
  });

  test('between queues, theirs come first; with age where a queue says so', () => {
    const one = { id: 'a', priority: 0, enteredAt: 0 };
    const other = { id: 'b', priority: 9, enteredAt: 50_000 };
    const important = { priority: 1 };
    const usual = { priority: 0, agePoints: 3 };
    expect(servedBefore(usual, one, important, other, 60_000)).toBe(false);
    expect(servedBefore({ ...usual, agesAcross: true }, one, important, other, 10_000)).toBe(false);
    expect(servedBefore({ ...usual, agesAcross: true }, one, important, other, 30_000)).toBe(true);
    fc.assert(
      fc.property(
        ranked,
        ranked,
        caller,
        caller,
        fc.integer({ min: 600_000, max: 9e6 }),
        (p, q, a, b, now) => {
          if (a.id !== b.id) expect(servedBefore(p, a, q, b, now)).toBe(!servedBefore(q, b, p, a, now));
        },
      ),
    );
  });
});

import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { OpeningHours } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import { greetingFor, type Greetings } from './greeting.ts';

const hour = 3_600_000;
/** Open from one to two, every day. */
const hours: OpeningHours = {
  ...{ id: 'h', name: 'One to two', clock: utcClock, days: {}, storm: null },
  weekly: Array.from({ length: 7 }, () => [[60, 120] as const]),
};
const all: Greetings = {
  open: { outside: 'oo', inside: 'oi' },
  closed: { outside: 'co', inside: 'ci' },
};

describe('the greeting of a box', () => {
  test.each([
    [1.5, false, 'oo'],
    [1.5, true, 'oi'],
    [2.5, false, 'co'],
    [2.5, true, 'ci'],
    // Half-open: at the closing minute it is closed.
    [2, false, 'co'],
    [1, false, 'oo'],
  ])('at %f h, from inside: %s: %s', (at, inside, promptId) => {
    expect(greetingFor(all, hours, inside, at * hour).promptId).toBe(promptId);
  });

  test('without hours is the one for open', () => {
    expect(greetingFor(all, undefined, false, 0)).toEqual({
      when: 'open',
      caller: 'outside',
      promptId: 'oo',
    });
  });

  test('a storm closes', () => {
    const storm = { ...hours, storm: { since: 0, until: 5 * hour } };
    expect(greetingFor(all, storm, false, 1.5 * hour).promptId).toBe('co');
  });

  const cell = fc.option(fc.constantFrom('a', 'b', 'c'));
  const pair = fc.record({ outside: cell, inside: cell });
  test('an empty cell says what its row says outside, then what is said while open; never the closed one while open', () => {
    fc.assert(
      fc.property(
        fc.record({ open: pair, closed: pair }),
        fc.boolean(),
        fc.boolean(),
        (greetings, open, inside) => {
          const { when, caller, promptId } = greetingFor(greetings, hours, inside, (open ? 1.5 : 3) * hour);
          expect([when, caller]).toEqual([open ? 'open' : 'closed', inside ? 'inside' : 'outside']);
          const own = greetings[when][caller];
          if (own !== null) expect(promptId).toBe(own);
          const some = [
            greetings.open.outside,
            greetings.open.inside,
            greetings.closed.outside,
            greetings.closed.inside,
          ];
          if (some.every((each) => each === null)) expect(promptId).toBeNull();
          // Whatever an outside caller hears while open is heard by everybody who has nothing of their own.
          if (greetings.open.outside !== null) expect(promptId).not.toBeNull();
          if (open) expect([greetings.open.outside, greetings.open.inside, null]).toContain(promptId);
          if (!inside) expect([greetings.open.outside, greetings.closed.outside, null]).toContain(promptId);
        },
      ),
    );
  });
});

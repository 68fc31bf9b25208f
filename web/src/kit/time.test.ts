import { DateTime } from 'luxon';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { span } from '@night-bell/core/story/span';
import { instantOf, instantsOf } from './time.ts';

test('lengths read like 0:38, 12:04, 1:02:09', () => {
  expect([38_000, 724_000, 3_729_000, 0, -5].map(span)).toEqual(['0:38', '12:04', '1:02:09', '0:00', '0:00']);
});

test('a local reading is the instant at which the zone shows it, also around daylight saving', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('America/Los_Angeles', 'America/St_Johns', 'UTC', 'Australia/Lord_Howe'),
      fc.integer({ min: Date.UTC(2025, 0, 1), max: Date.UTC(2027, 0, 1) }),
      (zone, at) => {
        const reading = DateTime.fromMillis(at - (at % 60_000), { zone }).toFormat("yyyy-MM-dd'T'HH:mm");
        expect(DateTime.fromMillis(instantOf(reading, zone), { zone }).toFormat("yyyy-MM-dd'T'HH:mm")).toBe(
          reading,
        );
      },
    ),
  );
});

test('days of a zone as instants: the last one whole, also where the clocks change; an open side stays open', () => {
  expect(instantsOf({ from: '2026-11-01', to: '2026-11-01' }, 'America/Los_Angeles')).toEqual({
    from: '2026-11-01T07:00:00.000Z',
    to: '2026-11-02T08:00:00.000Z',
  });
  expect(instantsOf({ from: '', to: '2026-12-31' }, 'UTC')).toEqual({
    from: null,
    to: '2027-01-01T00:00:00.000Z',
  });
});

import { describe, expect, test } from 'vitest';
import type { OpeningHours, Range } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import type { CompiledPlan, CompiledStep } from '../model/plan.ts';
import { type CheckView, checkPlan } from './check.ts';
import { checkView } from './check.testing.ts';

const end: CompiledStep = { kind: 'end', config: {}, exits: {} };
const plan = (steps: Record<string, CompiledStep>): CompiledPlan => ({
  ...{ id: 'self', version: 1, start: 's', fallback: { kind: 'end' } },
  steps: { ...steps, e: end },
});
const codes = (of: CompiledPlan, change: Partial<CheckView>) =>
  checkPlan(of, checkView(change)).flatMap(({ code, grade }) =>
    code === 'unreachable' ? [] : [`${grade} ${code}`],
  );
const hours = (weekly: readonly Range[], zone = 'UTC', day?: readonly Range[]): OpeningHours => ({
  ...{ id: 'h', name: 'H', clock: { ...utcClock, zone }, storm: null },
  weekly: Array.from({ length: 7 }, () => weekly),
  days:
    day === undefined
      ? {}
      : { '2026-12-25': { date: '2026-12-25', name: 'Christmas', holiday: true, ranges: day } },
});
const asking = plan({ s: { kind: 'hours', config: { hoursId: 'h' }, exits: { open: 'e', closed: 'e' } } });

describe('a plan that goes to others', () => {
  const going = plan({ s: { kind: 'plan', config: { planId: 'b' }, exits: {} } });
  const leadsTo = (ways: Record<string, string[] | null>) => ({ leadsTo: (id: string) => ways[id] ?? null });

  test('and comes back to itself is a circle, over however many', () => {
    expect(codes(going, leadsTo({ b: ['c'], c: ['self'] }))).toEqual(['fault planCircle']);
    expect(checkPlan(going, checkView(leadsTo({ b: ['c'], c: ['self'] })))[0]).toMatchObject({
      plans: ['b', 'c', 'self'],
    });
  });

  test('is none when they end elsewhere, or are a circle of their own that this one only enters', () => {
    expect(codes(going, leadsTo({ b: ['c'], c: [] }))).toEqual([]);
    expect(codes(going, leadsTo({ b: ['c'], c: ['b'] }))).toEqual([]);
  });

  test('to itself is one at once', () => {
    expect(codes(plan({ s: { kind: 'plan', config: { planId: 'self' }, exits: {} } }), {})).toEqual([
      'fault planCircle',
    ]);
  });
});

describe('hours', () => {
  test.each<[string, OpeningHours, string[]]>([
    ['open round the clock', hours([[0, 1440]]), ['doubt neverClosed']],
    ['open round the clock but for a holiday', hours([[0, 1440]], 'UTC', []), []],
    ['never open', hours([]), ['doubt neverOpen']],
    ['usual', hours([[540, 1020]]), []],
  ])('%s', (_, set, said) => {
    expect(codes(asking, { hours: () => set })).toEqual(said);
  });

  test.each([
    ['America/Los_Angeles', '+12065550140', []],
    // Another name, the same clock.
    ['America/Vancouver', '+12065550140', []],
    ['America/St_Johns', '+12065550140', ['doubt otherClock']],
    // A toll-free number may be anywhere.
    ['America/St_Johns', '+18005550140', []],
  ])('of %s for a number %s', (zone, e164, said) => {
    expect(codes(asking, { hours: () => hours([[540, 1020]], zone), numbers: () => [e164] })).toEqual(said);
  });
});

test('an extension that begins another is said where extensions are typed', () => {
  const typing = plan({
    s: {
      kind: 'extension',
      config: { promptId: 'p', waitSeconds: 3, tries: 2 },
      exits: { notFound: 'e', noKey: 'e', wrong: 'e' },
    },
  });
  const said = (extensions: string[]) =>
    checkPlan(typing, checkView({ extensions: () => extensions })).filter(
      ({ code }) => code === 'extensionHides',
    );
  expect(said(['2001', '20', '3001'])).toMatchObject([{ shorter: '20', longer: '2001' }]);
  expect(said(['2001', '2002', '3001'])).toEqual([]);
});

import { describe, expect, test } from 'vitest';
import type { OpeningHours, Range } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import type { CompiledPlan, CompiledStep } from '../model/plan.ts';
import { type CheckView, checkPlan, type HidingPair } from './check.ts';
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
  const said = (pair: HidingPair | null) =>
    checkPlan(typing, checkView({ hidingExtensions: () => pair })).filter(
      ({ code }) => code === 'extensionHides',
    );
  const pair = { shorter: '20', longer: '2001' };
  expect(said(pair)).toMatchObject([pair]);
  expect(said(null)).toEqual([]);
});

describe('languages', () => {
  const say = (promptId: string, next: string): CompiledStep => ({
    ...{ kind: 'say', config: { promptId, againKey: null }, exits: { next } },
  });
  const choice = (exits: Record<string, string>): CompiledStep => ({
    ...{ kind: 'keys', exits },
    config: {
      ...{ promptId: 'ask', waitSeconds: 5, tries: 2 },
      keys: [
        { key: '1', label: 'English', language: 'en' },
        { key: '2', label: 'Français', language: 'fr-CA' },
      ],
    },
  });
  const missing = (of: CompiledPlan, spoken: Record<string, string[]>) =>
    checkPlan(of, checkView({ languages: (id) => spoken[id] ?? [] })).flatMap((each) =>
      each.code === 'languageMissing' ? [`${each.stepId} ${each.promptId} ${each.language}`] : [],
    );

  test('a prompt behind a language it does not have is a doubt; the menu itself is none', () => {
    const of = plan({ s: choice({ key1: 'a', key2: 'a', noKey: 'a' }), a: say('hello', 'e') });
    expect(missing(of, { ask: ['en'], hello: ['en'] })).toEqual(['a hello fr-CA']);
    // For another region it is as good.
    expect(missing(of, { ask: ['en'], hello: ['en', 'fr'] })).toEqual([]);
    expect(missing(of, {})).toEqual([]);
  });

  test('a language chosen later takes the place of the one before; ways without a choice have none', () => {
    const of = plan({
      ...{ s: choice({ key1: 'again', key2: 'a', noKey: 'b' }), a: say('hello', 'e'), b: say('late', 'e') },
      again: {
        ...choice({ key1: 'b', key2: 'b', noKey: 'e' }),
        config: { ...choice({}).config, keys: [{ key: '1', label: '', language: 'es' }] },
      },
    });
    expect(missing(of, { ask: ['en'], hello: ['en', 'fr'], late: ['en'] })).toEqual(['b late es']);
  });

  test('keys are compared with the words in languages whose telling is known, and in no other', () => {
    const menu = choice({ key1: 'e', key2: 'e', noKey: 'e' });
    const keys = [1, 2].map((key) => ({ key: String(key), label: '' }));
    const doubts = (words: string, language: string, config = { ...menu.config, keys }) =>
      checkPlan(
        plan({ s: { ...menu, config } }),
        checkView({ words: () => words, languages: () => [language, 'fr', 'en'] }),
      ).flatMap((each) => ('key' in each ? [`${each.code} ${each.key}`] : []));
    expect(doubts('Pour le français, appuyez sur le 2. Faites un pour l’anglais.', 'fr-CA')).toEqual([]);
    expect(doubts('Para español, oprima el tres.', 'es')).toEqual([
      'keyNotThere 3',
      'keyNotSaid 1',
      'keyNotSaid 2',
    ]);
    expect(doubts('Drücken Sie die Zwei.', 'de')).toEqual([]);
    // A choice of languages is offered in each of them.
    const both = 'For English, press 1. Pour le français, faites le 2.';
    expect(doubts(both, 'en', menu.config as never)).toEqual([]);
    expect(doubts(both, 'en')).toEqual(['keyNotSaid 2']);
  });
});

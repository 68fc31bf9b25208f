import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Bench, configuration, person, queue, unroutedNumber } from '../exchange/exchange.testing.ts';
import { ropeSteps } from '../story/describe.ts';
import type { CompiledPlan } from '../model/plan.ts';
import {
  type Condition,
  hiddenBy,
  holds,
  type Rule,
  ruleFor,
  type RuleFacts,
  rulesFault,
  ruleWords,
} from './rules.ts';
import { exitOfRule } from './steps/rules.ts';

const known = (fields: Record<string, string> = {}) => ({ id: 'c', name: 'Ada', ownerId: null, fields });
const call = (more: Partial<RuleFacts> = {}): RuleFacts => ({
  ...{ from: '+13605550117', numberId: 'n', sourceId: 's', language: 'fr-CA', record: known(), keys: ['2'] },
  found: { sailing: 'the 9:40', people: '4' },
  queue: () => ({ waiting: 5, longestWait: 90, expectedWait: null, free: 0 }),
  hours: () => 'storm',
  ...more,
});
const record = (field: string, is: (Condition & { about: 'record' })['is'], value = ''): Condition => ({
  ...{ about: 'record', field, is, value },
});
const waits = (value: number, is: 'atLeast' | 'atMost' = 'atLeast'): Condition => ({
  ...{ about: 'queue', id: 'q', figure: 'waiting', is, value },
});

describe('a condition', () => {
  test.each<[Condition, Partial<RuleFacts>, boolean | undefined]>([
    [{ about: 'caller', is: 'withheld' }, {}, false],
    [{ about: 'caller', is: 'withheld' }, { from: 'anonymous' }, true],
    [{ about: 'caller', is: 'known' }, {}, true],
    [{ about: 'caller', is: 'notKnown' }, { record: null }, true],
    [{ about: 'callerNumber', begins: '+1360' }, {}, true],
    [{ about: 'callerNumber', begins: '+1206' }, {}, false],
    [{ about: 'number', id: 'n' }, {}, true],
    [{ about: 'source', id: 'other' }, {}, false],
    [{ about: 'language', language: 'fr' }, {}, true],
    [{ about: 'language', language: 'fr' }, { language: 'fro' }, false],
    [{ about: 'language', language: 'fr-FR' }, {}, false],
    [{ about: 'language', language: 'fr' }, { language: undefined }, undefined],
    [record('tier', 'same', ' Gold '), { record: known({ tier: 'gold' }) }, true],
    [record('tier', 'other', 'gold'), { record: known({ tier: 'silver' }) }, true],
    [record('tier', 'other', 'gold'), { record: null }, false],
    [record('notes', 'contains', 'late'), { record: known({ notes: 'Pays LATE' }) }, true],
    [record('notes', 'empty'), {}, true],
    [record('debt', 'atLeast', '100'), { record: known({ debt: '99.5' }) }, false],
    [record('debt', 'atMost', '100'), { record: known({ debt: '99.5' }) }, true],
    // What is no number is neither.
    [record('debt', 'atLeast', '0'), { record: known({ debt: 'much' }) }, false],
    [record('debt', 'atMost', '9e9'), { record: known({ debt: '' }) }, false],
    [waits(5), {}, true],
    [waits(6), {}, false],
    [waits(5, 'atMost'), {}, true],
    [{ about: 'queue', id: 'q', figure: 'expectedWait', is: 'atLeast', value: 0 }, {}, false],
    [waits(1), { queue: () => null }, false],
    [waits(1), { queue: () => undefined }, undefined],
    [{ about: 'hours', id: 'h', state: 'storm' }, {}, true],
    [{ about: 'hours', id: 'h', state: 'closed' }, { hours: () => null }, false],
    [{ about: 'key', key: '2' }, {}, true],
    [{ about: 'key', key: '1' }, { keys: undefined }, undefined],
  ])('%o of %o: %s', (condition, more, expected) => {
    expect(holds(condition, call(more))).toBe(expected);
  });
});

const rule = (id: string, ...all: Condition[]): Rule => ({ id, name: id, all });

describe('rules', () => {
  test('the first all of whose conditions hold is taken; none where none does', () => {
    const rules = [rule('a', waits(6)), rule('b', waits(5), { about: 'key', key: '2' }), rule('c')];
    expect(ruleFor(rules, call())?.id).toBe('b');
    expect(ruleFor(rules.slice(0, 1), call())).toBeNull();
  });

  test('what hangs on something that cannot be known is not known, unless another condition fails', () => {
    const past = call({ keys: undefined });
    expect(ruleFor([rule('a', { about: 'key', key: '2' })], past)).toBeUndefined();
    const failing = rule('a', { about: 'key', key: '2' }, waits(9));
    expect(ruleFor([failing, rule('b')], past)?.id).toBe('b');
  });

  test('one that an earlier one takes everything of is hidden', () => {
    const hidden = (...rules: Rule[]) => hiddenBy(rules, rules.length - 1)?.id ?? null;
    expect(
      hidden(
        rule('wide', { about: 'callerNumber', begins: '+1' }),
        rule('b', { about: 'callerNumber', begins: '+1360' }),
      ),
    ).toBe('wide');
    expect(
      hidden(
        rule('a', { about: 'callerNumber', begins: '+1360' }),
        rule('b', { about: 'callerNumber', begins: '+1' }),
      ),
    ).toBeNull();
    expect(hidden(rule('a', waits(3)), rule('b', waits(5), { about: 'key', key: '1' }))).toBe('a');
    expect(hidden(rule('a', waits(5)), rule('b', waits(3)))).toBeNull();
    expect(hidden(rule('always'), rule('b', waits(3)))).toBe('always');
    expect(
      hidden(rule('a', { about: 'caller', is: 'known' }), rule('b', record('tier', 'same', 'gold'))),
    ).toBe('a');
  });

  const someCondition = fc.oneof(
    fc.constantFrom<Condition>(
      { about: 'caller', is: 'known' },
      { about: 'caller', is: 'withheld' },
      { about: 'callerNumber', begins: '+1' },
      { about: 'callerNumber', begins: '+1360' },
      { about: 'language', language: 'fr' },
      { about: 'language', language: 'fr-CA' },
      { about: 'key', key: '2' },
      record('tier', 'same', 'gold'),
      record('debt', 'atLeast', '5'),
      record('debt', 'atLeast', '50'),
    ),
    fc.record({
      about: fc.constant('queue' as const),
      id: fc.constantFrom('q', 'r'),
      figure: fc.constantFrom('waiting' as const, 'free' as const),
      is: fc.constantFrom('atLeast' as const, 'atMost' as const),
      value: fc.nat(9),
    }),
  );
  const someRules = fc
    .array(fc.array(someCondition, { maxLength: 3 }), { minLength: 1, maxLength: 6 })
    .map((all) => all.map((conditions, index) => rule(`r${index}`, ...conditions)));
  const someCall = fc.record({
    from: fc.constantFrom('anonymous', '+13605550117', '+12065550140'),
    language: fc.constantFrom(null, 'fr', 'fr-CA', 'en'),
    record: fc.constantFrom(null, known(), known({ tier: 'gold', debt: '7' }), known({ debt: '70' })),
    keys: fc.constantFrom([], ['2']),
    load: fc.record({
      waiting: fc.nat(10),
      longestWait: fc.nat(9),
      expectedWait: fc.nat(9),
      free: fc.nat(10),
    }),
  });
  test('whatever the rules and the call: one that is hidden is never taken', () => {
    fc.assert(
      fc.property(someRules, someCall, (rules, { load, ...more }) => {
        const taken = ruleFor(rules, call({ ...more, queue: () => load }));
        if (taken != null) expect(hiddenBy(rules, rules.indexOf(taken))).toBeNull();
      }),
      { numRuns: 2_000 },
    );
  });

  test('are said in words', () => {
    const words = ruleWords(
      rule('a', waits(5), { about: 'hours', id: 'h', state: 'storm' }),
      (_kind, id) => id,
    );
    expect(words).toBe('at least 5 wait in q and the hours of h are closed by storm');
    expect(ruleWords(rule('a'), () => '')).toBe('always');
  });
});

describe('what is wrong with rules is said', () => {
  const fault = (value: unknown, isDraft = false) => rulesFault('Rules', value, isDraft);
  test.each<[string, unknown, string]>([
    ['no list', {}, 'at most'],
    ['two of one name', [rule('a'), rule('a')], 'a name of its own'],
    ['a condition about nothing', [rule('a', { about: 'moon' } as never)], 'nothing is known about moon'],
    ['a figure as text', [rule('a', { ...waits(1), value: '5' } as never)], 'value cannot be "5"'],
    ['a negative figure', [rule('a', waits(-1))], 'value cannot be -1'],
    ['one thing too many', [rule('a', { ...waits(1), more: 1 } as never)], 'more means nothing here'],
    ['no plus', [rule('a', { about: 'callerNumber', begins: '360' })], 'country code'],
    [
      'nothing chosen',
      [rule('a', { about: 'queue', id: '', figure: 'free', is: 'atMost', value: 1 })],
      'choose the queue',
    ],
    [
      'a word for a number',
      [rule('a', record('debt', 'atLeast', 'much'))],
      'compared with a number, not “much”',
    ],
    ['nothing to compare with', [rule('a', record('tier', 'same', ' '))], 'is missing'],
    ['too many', Array.from({ length: 41 }, (_, index) => rule(`r${index}`)), 'at most 40'],
  ])('%s', (_what, value, words) => expect(fault(value)).toContain(words));

  test('in a draft, what is named may still be to be chosen', () => {
    const rules = [rule('a', { about: 'hours', id: '', state: 'open' })];
    expect(fault(rules, true)).toBeNull();
    expect(fault(rules)).toContain('choose the opening hours');
  });
});

describe('a call in rules', () => {
  const plan = (...rules: Rule[]): CompiledPlan => ({
    ...{ id: 'p', version: 1, start: 's', fallback: { kind: 'end' } },
    steps: {
      s: {
        kind: 'rules',
        config: { rules },
        exits: { otherwise: 'q', ...Object.fromEntries(rules.map((each) => [exitOfRule(each), 'end'])) },
      },
      q: { kind: 'queue', config: { queueId: 'q', priority: null }, exits: {} },
      end: { kind: 'end', config: {}, exits: {} },
    },
  });
  const bench = (...rules: Rule[]) => {
    const set = configuration([person('a')], [queue('q', ['a'])]);
    const numbers = set.numbers.map((number) =>
      number.e164 === unroutedNumber ? { ...number, plan: plan(...rules) } : number,
    );
    return new Bench({ ...set, numbers });
  };

  test('goes by the first that holds, and its story says which, why, and what came after', () => {
    const day = bench(rule('busy', waits(1)), rule('quiet', waits(0)), rule('last'));
    const callId = day.call(1, unroutedNumber);
    expect(day.ended()[0]).toMatchObject({ callId, result: 'turnedAway' });
    expect(day.recordsOf('rulesAsked')).toMatchObject([
      { rule: 'quiet', because: 'at least 0 wait in Queue q', others: ['last'], passed: 1 },
    ]);
    const step = ropeSteps(day.records, null).find(({ title }) => title === 'Rule: quiet');
    expect(step).toMatchObject({ reason: 'at least 0 wait in Queue q', slack: ['last'] });
  });

  test('meets the load of that moment: with somebody waiting it goes the other way', () => {
    const day = bench(rule('busy', waits(1)));
    day.call(1, unroutedNumber);
    day.call(2, unroutedNumber);
    expect(day.recordsOf('rulesAsked').map((record) => record.rule)).toEqual([null, 'busy']);
  });
});

import fc from 'fast-check';
import { expect, test } from 'vitest';
import { matches, placesOf } from './pattern.ts';
import { type Asker, DialPlan, type DiallingRule, mayUse } from './rules.ts';

const piece = fc.oneof(
  { arbitrary: fc.constantFrom('0', '1', '2', '9', '+', '*', '#', 'x', 'N'), weight: 6 },
  { arbitrary: fc.constantFrom('[2-5]', '[01]', '[3-9*]'), weight: 1 },
);
const pattern = fc
  .tuple(fc.array(piece, { minLength: 1, maxLength: 9 }), fc.boolean())
  .map(([pieces, open]) => `${pieces.join('')}${open ? '.' : ''}`);
const rule = fc.record({
  pattern,
  use: fc.constantFrom<DiallingRule['use']>('everybody', 'people', 'campaigns'),
  teamIds: fc.subarray(['red', 'blue']),
});
const rules = fc.array(rule, { maxLength: 90 }).map((all) =>
  all.map((each, i): DiallingRule => ({
    id: `r${i}`,
    name: '',
    strip: 0,
    prepend: '',
    trunkIds: [],
    ...each,
  })),
);
const dialled = fc
  .array(fc.constantFrom(...'0129+*#'), { minLength: 1, maxLength: 60 })
  .map((symbols) => symbols.join(''));
const asker = fc.constantFrom<Asker>(
  { kind: 'campaign' },
  { kind: 'person', teamId: null },
  { kind: 'person', teamId: 'red' },
  { kind: 'person', teamId: 'nobody names it' },
);

test('the rule found is the first in the order of the list of ranks that matches and may be used', () => {
  fc.assert(
    fc.property(rules, dialled, asker, (all, digits, who) => {
      const plan = new DialPlan(all);
      const decision = plan.decide(digits, who);
      if (all.length === 0 || decision.kind === 'emergency') return;
      const places = placesOf(digits)!;
      const first = plan.patterns().find((each) => mayUse(each.rule, who) && matches(each.pattern, places));
      expect(decision.kind === 'rule' ? decision.rule.id : null).toBe(first?.rule.id ?? null);
    }),
    { numRuns: 3_000 },
  );
});

test('every place of a word of bits is found, the last rule of many and the first alike', () => {
  const many = Array.from({ length: 100 }, (_, i): DiallingRule => ({
    ...{ id: `r${i}`, name: '', pattern: `+1${String(200 + i)}`, strip: 0, prepend: '', trunkIds: [] },
    ...{ use: 'everybody', teamIds: [] },
  }));
  const plan = new DialPlan(many);
  for (let i = 0; i < 100; i++)
    expect(plan.decide(`+1${200 + i}`, { kind: 'campaign' })).toMatchObject({
      kind: 'rule',
      rule: { id: `r${i}` },
    });
  expect(plan.decide('+1300', { kind: 'campaign' })).toEqual({ kind: 'noMatch' });
});

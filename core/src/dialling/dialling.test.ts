import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bySpecificity, matches, type Pattern, placesOf, readPattern, shortest } from './pattern.ts';
import { type Asker, DialPlan, type DiallingRule } from './rules.ts';
import { meet, ruleWarnings, uncovered } from './warnings.ts';

const anybody: Asker = { kind: 'person', teamId: null };

function pattern(text: string): Pattern {
  const reading = readPattern(text);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.pattern;
}
const fits = (text: string, dialled: string) => matches(pattern(text), placesOf(dialled)!);

function rule(id: string, text: string, change: Partial<DiallingRule> = {}): DiallingRule {
  return {
    id,
    name: id,
    pattern: text,
    strip: 0,
    prepend: '',
    trunkIds: ['t'],
    use: 'everybody',
    teamIds: [],
    ...change,
  };
}

describe('patterns', () => {
  // RFC 3435, 2.1.5 and the North American numbering plan.
  test.each([
    ['911', '911', true],
    ['911', '9111', false],
    ['NxxNxxxxxx', '2065550140', true],
    ['NxxNxxxxxx', '1065550140', false],
    ['+1NxxNxxxxxx', '+12065550140', true],
    ['011x.', '011', true],
    ['011x.', '01144', true],
    ['[1-5]x', '59', true],
    ['[1-5]x', '69', false],
    ['[2-47]', '7', true],
    ['[2-47]', '5', false],
    ['*72x.', '*72100', true],
    ['#', '#', true],
    ['x', '+', false],
  ])('%s and %s: %s', (text, dialled, is) => {
    expect(fits(text, dialled)).toBe(is);
  });

  test.each([
    ['', 'Type a pattern'],
    ['.', 'nothing does'],
    ['x.5', 'behind the final dot'],
    ['[12', 'not closed'],
    ['[]', 'empty'],
    ['[5-1]', 'backwards'],
    ['[*-5]', 'not a range'],
    ['ab', '"a" is not part'],
  ])('%j is refused: %s', (text, words) => {
    const reading = readPattern(text);
    expect(reading.ok ? '' : reading.reason).toContain(words);
  });

  test('more specific: fewer symbols at the first place that differs, a fixed end before a repetition', () => {
    const order = ['1206x.', '1N05', 'xxx', 'xx', 'xxx.', 'x', 'xx.', 'x.'];
    const sorted = [...order].reverse().sort((one, other) => bySpecificity(pattern(one), pattern(other)));
    expect(sorted).toEqual(order);
    expect(bySpecificity(pattern('12x'), pattern('1xx'))).toBeLessThan(0);
    expect(bySpecificity(pattern('xx'), pattern('xx.'))).toBeLessThan(0);
    expect(bySpecificity(pattern('[12]x'), pattern('[34]x'))).toBe(0);
    expect(shortest(pattern('011x.'))).toBe(3);
  });
});

/** Short patterns over few symbols, none of an emergency number, so that all strings up to a length can be tried. */
const smallPattern = fc
  .tuple(
    fc.array(fc.constantFrom('4', '5', '[45]', '6', '[4-6]'), { minLength: 1, maxLength: 4 }),
    fc.boolean(),
  )
  .map(([elements, dot]) => elements.join('') + (dot ? '.' : ''));
const everyString = (() => {
  const all: string[] = [''];
  for (let length = 1, last = ['']; length <= 6; length++) {
    last = last.flatMap((text) => ['4', '5', '6'].map((digit) => text + digit));
    all.push(...last);
  }
  return all;
})();

describe('against trying every string', () => {
  test('bySpecificity is an order', () => {
    fc.assert(
      fc.property(smallPattern, smallPattern, smallPattern, (a, b, c) => {
        const [x, y, z] = [pattern(a), pattern(b), pattern(c)];
        expect(Math.sign(bySpecificity(x, y)) + Math.sign(bySpecificity(y, x))).toBe(0);
        if (bySpecificity(x, y) <= 0 && bySpecificity(y, z) <= 0)
          expect(bySpecificity(x, z)).toBeLessThanOrEqual(0);
      }),
    );
  });

  test('the rule that wins is the first by specificity and list order that matches', () => {
    fc.assert(
      fc.property(fc.array(smallPattern, { minLength: 1, maxLength: 8 }), (texts) => {
        const plan = new DialPlan(texts.map((text, index) => rule(String(index), text)));
        for (const dialled of everyString.slice(1, 200)) {
          const places = placesOf(dialled)!;
          const best = texts
            .map((text, index) => ({ text, index }))
            .filter(({ text }) => matches(pattern(text), places))
            .sort(
              (one, other) =>
                bySpecificity(pattern(one.text), pattern(other.text)) || one.index - other.index,
            )[0];
          const decision = plan.decide(dialled, anybody);
          expect(decision.kind === 'rule' ? decision.rule.id : null).toBe(
            best === undefined ? null : String(best.index),
          );
          const wins = plan.explain(dialled, anybody).filter(({ why }) => why === 'wins');
          expect(wins.map(({ rule: each }) => each.id)).toEqual(
            best === undefined ? [] : [String(best.index)],
          );
        }
      }),
      { numRuns: 60 },
    );
  });

  test('uncovered finds a string exactly when there is one', () => {
    fc.assert(
      fc.property(smallPattern, fc.array(smallPattern, { maxLength: 6 }), (text, others) => {
        const found = uncovered(pattern(text), others.map(pattern));
        const left = everyString.some(
          (each) => fits(text, each) && !others.some((other) => fits(other, each)),
        );
        if (found === null) expect(left).toBe(false);
        else {
          expect(fits(text, found)).toBe(true);
          expect(others.some((other) => fits(other, found))).toBe(false);
        }
      }),
      { numRuns: 400 },
    );
  });

  test('meet finds a string that both match exactly when there is one', () => {
    fc.assert(
      fc.property(smallPattern, smallPattern, (one, other) => {
        const found = meet(pattern(one), pattern(other));
        const both = everyString.some((each) => fits(one, each) && fits(other, each));
        if (found === null) expect(both).toBe(false);
        else expect(fits(one, found) && fits(other, found)).toBe(true);
      }),
      { numRuns: 400 },
    );
  });
});

describe('deciding', () => {
  const plan = new DialPlan([
    rule('local', 'NxxNxxxxxx', { prepend: '+1' }),
    rule('long', '1NxxNxxxxxx', { prepend: '+' }),
    rule('full', '+x.'),
    rule('abroad', '011x.', { strip: 3, prepend: '+', use: 'people', teamIds: ['freight'] }),
  ]);
  const sent = (dialled: string, asker: Asker = anybody) => {
    const decision = plan.decide(dialled, asker);
    return decision.kind === 'rule' ? `${decision.rule.id} ${decision.digits}` : decision.kind;
  };

  test('what is sent is the prefix and the rest', () => {
    expect(sent('2065550140')).toBe('local +12065550140');
    expect(sent('12065550140')).toBe('long +12065550140');
    expect(sent('+442079460123')).toBe('full +442079460123');
    expect(sent('5550140')).toBe('noMatch');
    expect(sent('call me')).toBe('notDialable');
  });

  test('a rule of some is passed over for others', () => {
    expect(sent('011442079460123')).toBe('noMatch');
    expect(sent('011442079460123', { kind: 'person', teamId: 'freight' })).toBe('abroad +442079460123');
    expect(sent('011442079460123', { kind: 'campaign' })).toBe('noMatch');
    expect(plan.explain('011442079460123', anybody).find(({ rule: each }) => each.id === 'abroad')!.why).toBe(
      'notForThem',
    );
  });

  test('emergency numbers go out as dialled, whatever the rules say', () => {
    const careless = new DialPlan([rule('all', 'x.', { prepend: '9' })]);
    expect(careless.decide('911', anybody)).toEqual({ kind: 'emergency', digits: '911' });
    expect(new DialPlan([]).decide('911', { kind: 'campaign' })).toMatchObject({ kind: 'emergency' });
  });

  test('without any rule what is dialled goes out as it is', () => {
    expect(new DialPlan([]).decide('+12065550140', { kind: 'campaign' })).toEqual({
      kind: 'noRules',
      digits: '+12065550140',
    });
  });
});

describe('warnings', () => {
  const of = (...rules: DiallingRule[]) => ruleWarnings(new DialPlan(rules));

  test('hidden by one, and by several only together', () => {
    expect(of(rule('a', '12'), rule('b', '12'))).toMatchObject([
      { kind: 'shadowed', ruleId: 'b', by: ['a'] },
    ]);
    const together = of(rule('low', '[0-4]'), rule('high', '[5-9]'), rule('any', 'x'));
    expect(together).toEqual([{ kind: 'shadowed', ruleId: 'any', by: ['low', 'high'] }]);
    expect(of(rule('low', '[0-4]'), rule('high', '[5-8]'), rule('any', 'x'))).toEqual([]);
  });

  test('a rule of others hides nothing', () => {
    const hidden = (...rules: DiallingRule[]) => of(...rules).filter(({ kind }) => kind === 'shadowed');
    expect(hidden(rule('a', '12', { use: 'campaigns' }), rule('b', '12'))).toEqual([]);
    expect(
      hidden(rule('a', '12', { teamIds: ['t'], use: 'people' }), rule('b', '12', { use: 'people' })),
    ).toEqual([]);
  });

  test('two alike that meet, with an example; a careless catch-all; an emergency number rewritten', () => {
    expect(of(rule('a', '[12]x'), rule('b', '[23]x'))).toEqual([
      { kind: 'overlap', ruleId: 'b', otherId: 'a', example: '20' },
    ]);
    const ofTeam = rule('a', '[12]x', { use: 'people', teamIds: ['t'] });
    expect(of(ofTeam, rule('b', '[23]x'))).toMatchObject([{ kind: 'overlap' }]);
    expect(of(ofTeam, rule('b', '[23]x', { use: 'campaigns' }))).toEqual([]);
    expect(of(rule('all', 'x.'))).toEqual([{ kind: 'catchAll', ruleId: 'all' }]);
    expect(of(rule('nine', '9xx', { strip: 1 }))).toEqual([
      { kind: 'emergency', ruleId: 'nine', digits: '911' },
    ]);
  });
});

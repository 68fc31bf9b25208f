import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fitsFrom, minimumAfter, stageAfter, stagesOf } from './stages.ts';
import { skillGaps } from './eligibility.ts';

const french = {
  ...{ skillId: 'f', name: 'French', minimum: 4 },
  relaxes: [
    { afterSeconds: 40, minimum: 3 },
    { afterSeconds: 90, minimum: 0 },
  ],
};

test('a stage begins where a minimum gives way or somebody joins, at exactly that second', () => {
  const stages = stagesOf({ skills: [french], joinsAfter: [0, 60, 40] });
  expect(stages).toEqual([40, 60, 90]);
  const at = (seconds: number) => stageAfter(stages, seconds * 1_000);
  expect([0, 39.999, 40, 59, 60, 89.999, 90, 9_999].map(at)).toEqual([0, 0, 1, 1, 2, 2, 3, 3]);
});

test('the level asked for goes down step by step, never up', () => {
  expect([0, 39, 40, 89, 90].map((seconds) => minimumAfter(french, seconds))).toEqual([4, 4, 3, 3, 0]);
  const odd = { ...french, relaxes: [{ afterSeconds: 10, minimum: 5 }] };
  expect(minimumAfter(odd, 20)).toBe(4);
});

test('somebody fits from the first stage at which every level is enough and they have joined', () => {
  const stages = stagesOf({ skills: [french], joinsAfter: [0, 60] });
  const from = (level: number, joins = 0) => fitsFrom({ skills: [french] }, stages, { f: level }, joins);
  expect([5, 4, 3, 2].map((level) => from(level))).toEqual([0, 0, 1, 3]);
  expect(from(5, 60)).toBe(2);
  expect(fitsFrom({ skills: [{ ...french, relaxes: [] }] }, [], {}, 0)).toBe(Number.POSITIVE_INFINITY);
});

test('who fits at a stage has no gap then, and who does not fit has one or has not joined', () => {
  const skill = fc.record({
    ...{
      skillId: fc.constantFrom('a', 'b'),
      name: fc.constant('x'),
      minimum: fc.integer({ min: 1, max: 5 }),
    },
    relaxes: fc.array(fc.record({ afterSeconds: fc.integer({ min: 1, max: 9 }), minimum: fc.nat(4) }), {
      maxLength: 3,
    }),
  });
  fc.assert(
    fc.property(
      fc.array(skill, { maxLength: 2 }),
      fc.record({ a: fc.nat(5), b: fc.nat(5) }),
      fc.nat(9),
      fc.nat(12),
      (skills, levels, joins, seconds) => {
        const stages = stagesOf({ skills, joinsAfter: [joins] });
        const fits = fitsFrom({ skills }, stages, levels, joins) <= stageAfter(stages, seconds * 1_000);
        expect(fits).toBe(skillGaps(levels, skills, seconds).length === 0 && joins <= seconds);
      },
    ),
  );
});

import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { OutlineLine } from '@night-bell/core/plan/outline';
import { railsOf, shownLines } from './plan-lines.ts';

const step = (depth: number): OutlineLine => ({ kind: 'step', stepId: 's', depth, number: '1' });
const branch = (depth: number, stepId = 's'): OutlineLine => ({
  ...{ kind: 'branch', stepId, exit: 'closed', label: 'closed', depth, target: 't', steps: 1 },
});
const open = (depth: number, needed: boolean): OutlineLine => ({
  ...{ kind: 'open', stepId: 's', exit: 'gone', label: 'it is gone', depth, needed },
});
const anyLine = fc
  .record({ isStep: fc.boolean(), depth: fc.nat(4) })
  .map(({ isStep, depth }) => (isStep ? step(depth) : branch(depth)));

/** The first line below that is no deeper, of those that `wanted` looks at. */
function firstBelow(lines: OutlineLine[], index: number, depth: number, stepsOnly: boolean) {
  return lines
    .slice(index + 1)
    .find((line) => line.depth < depth || (line.depth === depth && (!stepsOnly || line.kind === 'step')));
}

test('a rope runs to the next step of its depth, a strand to the next branch, and nothing past what is shallower', () => {
  fc.assert(
    fc.property(fc.array(anyLine, { maxLength: 30 }), (lines) => {
      railsOf(lines).forEach(({ past, goesOn }, index) => {
        const line = lines[index]!;
        const own = firstBelow(lines, index, line.depth, true);
        expect(goesOn).toBe(own?.depth === line.depth);
        const deepest = line.kind === 'step' ? line.depth - 1 : line.depth;
        const expected = Array.from({ length: deepest + 1 }, (_, depth) => {
          const nextStep = firstBelow(lines, index, depth, true);
          const next = firstBelow(lines, index, depth, false);
          return {
            ...{ depth, rope: nextStep?.depth === depth },
            strand: next !== undefined && next.depth === depth && next.kind !== 'step',
          };
        }).filter(({ rope, strand }) => rope || strand);
        expect(past).toEqual(expected);
      });
    }),
  );
});

test('what is below a folded branch is not shown, nor a way that need not lead anywhere', () => {
  const lines = [
    step(0),
    branch(0),
    step(1),
    branch(1, 'inner'),
    step(2),
    open(1, true),
    step(0),
    open(0, false),
  ];
  expect(shownLines(lines, new Set())).toHaveLength(7);
  expect(shownLines(lines, new Set(['s closed']))).toEqual([step(0), branch(0), step(0)]);
  expect(shownLines(lines, new Set(['inner closed']))).toEqual([
    ...[step(0), branch(0), step(1), branch(1, 'inner'), open(1, true), step(0)],
  ]);
});

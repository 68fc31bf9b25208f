import { expect, test } from 'vitest';
import type { DistributionKind } from '@night-bell/core/model/distribution';
import type { Difference, Judged } from '@night-bell/core/rehearse/comparison';
import { comparisonSentences } from './compare-words.ts';

const nothing: Record<Judged, Difference> = {
  ...{ median: { by: -3, holds: false }, p90: { by: 5, holds: false }, lost: { by: 1, holds: false } },
  ...{ inTime: { by: 0.1, holds: false } },
  ...{ callsSpread: { by: 2, holds: false }, idleSpread: { by: 2, holds: false } },
};
const of = (...entries: [DistributionKind, Partial<Record<Judged, Difference>>][]) =>
  new Map(entries.map(([kind, differ]) => [kind, { ...nothing, ...differ }]));

test('what no run can tell is not called a difference, however large it looks', () => {
  expect(comparisonSentences(of(['random', {}], ['allAtOnce', {}]), 5)).toEqual([
    'In waiting and lost calls 5 runs cannot tell any two apart.',
  ]);
});

test('first what differs in waiting, each way by itself; then that nothing else does', () => {
  const differ = of(
    ['allAtOnce', { median: { by: -3.21, holds: true }, lost: { by: -2, holds: true } }],
    ['inOrder', { p90: { by: 14.4, holds: true } }],
    ['random', {}],
  );
  expect(comparisonSentences(differ, 10)).toEqual([
    'All at once is answered 3.2 s sooner at the median, loses 2.0 fewer callers an hour: more than chance.',
    'In order makes one in ten wait 14 s longer: more than chance.',
    'No other difference in waiting or lost calls is more than chance.',
  ]);
});

test('then how evenly work is shared, those alike in one sentence', () => {
  const uneven = { callsSpread: { by: 4, holds: true } };
  const differ = of(
    ['inOrder', uneven],
    ['bestSkill', uneven],
    ['roundRobin', { idleSpread: { by: -1, holds: true } }],
  );
  expect(comparisonSentences(differ, 5).slice(1)).toEqual([
    'In order and best skill share calls less evenly: more than chance.',
    'Round robin shares idle time more evenly: more than chance.',
  ]);
});

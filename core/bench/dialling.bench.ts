/** The decision of the dialling rules among 5,000, beside a bare look-up in a Map of as many keys. */
import { performance } from 'node:perf_hooks';
import { DialPlan, type DiallingRule } from '../src/dialling/rules.ts';
import { ruleWarnings } from '../src/dialling/warnings.ts';

const count = 5_000;
const rounds = 20_000;
/** Half of them prefixes of seven digits, half open ones of four, and a catch-all: all may begin with '+1'. */
const rules: DiallingRule[] = Array.from({ length: count }, (_, index) => ({
  id: `rule-${index}`,
  name: `Rule ${index}`,
  pattern:
    index === 0
      ? '+X.'
      : index % 2 === 0
        ? `+1${200 + (index % 700)}${100 + (index % 900)}XXXX`
        : `+1${200 + (index % 700)}.`,
  strip: 0,
  prepend: '',
  trunkIds: ['trunk'],
  use: 'everybody',
  teamIds: [],
}));
const dialled = Array.from({ length: rounds }, (_, i) => `+1${200 + (i % 750)}${100 + ((i * 7) % 900)}0100`);

const timed = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
let plan = new DialPlan([]);
const ready = timed(() => (plan = new DialPlan(rules)));
const asker = { kind: 'campaign' } as const;
const times = dialled.map((digits) => timed(() => plan.decide(digits, asker)));
const table = new Map(rules.map((rule) => [rule.pattern, rule]));
let found = 0;
const bare = timed(() => {
  for (const digits of dialled) if (table.has(digits)) found++;
});
times.sort((one, other) => one - other);
const at = (share: number) => times[Math.floor(times.length * share)]!;
const decided = dialled.filter((digits) => plan.decide(digits, asker).kind === 'rule').length;
console.log(
  `  ${count.toLocaleString('en')} rules: a decision takes ${(at(0.5) * 1000).toFixed(0)} µs at the median, ${(at(0.99) * 1000).toFixed(0)} µs at p99 (target: under 1 ms); ${((at(0.5) * rounds) / bare).toFixed(0)} times a look-up in a Map; ${decided - found} of ${rounds} went out by a rule`,
);
console.log(
  `  made ready in ${ready.toFixed(0)} ms; looked through for warnings in ${timed(() => ruleWarnings(plan)).toFixed(0)} ms`,
);

import type { DistributionKind } from '@night-bell/core/model/distribution';
import type { Difference, Judged } from '@night-bell/core/rehearse/comparison';
import { distributionWords } from './words.ts';

export type Differences = ReadonlyMap<DistributionKind, Record<Judged, Difference>>;

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const named = (kinds: readonly DistributionKind[]) => {
  const names = kinds.map((kind) => distributionWords[kind]);
  return capital(names.length < 2 ? names.join() : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`);
};
const seconds = (value: number) => {
  const rounded = Math.abs(value) < 10 ? Math.abs(value).toFixed(1) : String(Math.round(Math.abs(value)));
  return `${rounded} s`;
};

/** Of waiting, each as a sentence; fewer seconds, fewer lost and a higher level are better. */
const waiting: [Judged, (by: number) => string][] = [
  ['median', (by) => `is answered ${seconds(by)} ${by < 0 ? 'sooner' : 'later'} at the median`],
  ['p90', (by) => `makes one in ten wait ${seconds(by)} ${by < 0 ? 'less' : 'longer'}`],
  ['inTime', (by) => `answers ${Math.abs(by * 100).toFixed(1)} % ${by > 0 ? 'more' : 'fewer'} in time`],
  ['lost', (by) => `loses ${Math.abs(by).toFixed(1)} ${by < 0 ? 'fewer' : 'more'} callers an hour`],
];
const fairness: [Judged, string][] = [
  ['callsSpread', 'calls'],
  ['idleSpread', 'idle time'],
];

/**
 * What the comparison comes to, in sentences made by rule: first what differs in waiting, then whether anything else does,
 * then how evenly work is shared. Only what is more than chance is called a difference.
 */
export function comparisonSentences(differ: Differences, runs: number): string[] {
  const sentences: string[] = [];
  let differs = false;
  for (const [kind, figures] of differ) {
    const said = waiting
      .filter(([figure]) => figures[figure].holds)
      .map(([figure, words]) => words(figures[figure].by));
    if (said.length === 0) continue;
    differs = true;
    sentences.push(`${named([kind])} ${said.join(', ')}: more than chance.`);
  }
  sentences.push(
    differs
      ? 'No other difference in waiting or lost calls is more than chance.'
      : `In waiting and lost calls ${runs} runs cannot tell any two apart.`,
  );
  for (const [figure, words] of fairness)
    for (const [less, more] of [
      [(by: number) => by > 0, 'less'],
      [(by: number) => by < 0, 'more'],
    ] as const) {
      const kinds = [...differ]
        .filter(([, of]) => of[figure].holds && less(of[figure].by))
        .map(([kind]) => kind);
      if (kinds.length > 0)
        sentences.push(
          `${named(kinds)} ${kinds.length === 1 ? 'shares' : 'share'} ${words} ${more} evenly: more than chance.`,
        );
    }
  return sentences;
}

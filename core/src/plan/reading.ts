import type { PlanDocument } from './document.ts';
import { outline } from './outline.ts';
import { stepKinds } from './registry.ts';
import type { Names } from './step-kind.ts';

/** One line of a plan as it is read out: how deep it stands, and a sentence. */
export interface PlanSentence {
  depth: number;
  text: string;
}

/** A plan in plain sentences, for who did not build it: every step, every way out of it, and where that leads. */
export function sentencesOf(document: PlanDocument, names: Names): PlanSentence[] {
  const lines = outline(document);
  const number = new Map(
    lines.flatMap((line) => (line.kind === 'step' ? [[line.stepId, line.number] as const] : [])),
  );
  return lines.flatMap((line): PlanSentence[] => {
    const { depth } = line;
    switch (line.kind) {
      case 'step': {
        const step = document.steps[line.stepId]!;
        const said = stepKinds[step.kind].describe(step.config as never, names);
        return [{ depth, text: `${line.number}. ${said}.` }];
      }
      case 'branch':
        return [{ depth: depth + 1, text: `${when(line.label)}:` }];
      case 'goesTo':
        return [
          { depth: depth + 1, text: `${when(line.label)}: go on at ${number.get(line.target) ?? '?'}.` },
        ];
      case 'open':
        return line.needed ? [{ depth: depth + 1, text: `${when(line.label)}: nothing is said yet.` }] : [];
    }
  });
}

const when = (label: string) => `When “${label.replace(/^when /, '')}”`;

/** What differs between two readings: sentences of both in order, those of one only marked. By longest common subsequence. */
export function compared(
  before: readonly PlanSentence[],
  after: readonly PlanSentence[],
): (PlanSentence & { change: 'same' | 'gone' | 'new' })[] {
  const same = (one: PlanSentence, other: PlanSentence) => bare(one) === bare(other);
  const length = Array.from({ length: before.length + 1 }, () => new Array<number>(after.length + 1).fill(0));
  for (let i = before.length - 1; i >= 0; i--)
    for (let j = after.length - 1; j >= 0; j--)
      length[i]![j] = same(before[i]!, after[j]!)
        ? length[i + 1]![j + 1]! + 1
        : Math.max(length[i + 1]![j]!, length[i]![j + 1]!);
  const lines: (PlanSentence & { change: 'same' | 'gone' | 'new' })[] = [];
  let i = 0;
  let j = 0;
  while (i < before.length || j < after.length) {
    if (i < before.length && j < after.length && same(before[i]!, after[j]!)) {
      lines.push({ ...after[j++]!, change: 'same' });
      i++;
    } else if (j >= after.length || (i < before.length && length[i + 1]![j]! >= length[i]![j + 1]!))
      lines.push({ ...before[i++]!, change: 'gone' });
    else lines.push({ ...after[j++]!, change: 'new' });
  }
  return lines;
}

/** Without the number of the step: one that moved down by another is not another. */
const bare = ({ depth, text }: PlanSentence) =>
  `${depth} ${text.replace(/^\d+\. /, '').replace(/ at \d+\.$/, '')}`;

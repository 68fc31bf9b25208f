import { computed, type Ref, ref } from 'vue';
import { wayKey } from '@night-bell/core/plan/layout';
import type { OutlineLine } from '@night-bell/core/plan/outline';

/** What runs past a row at one depth: the rope of steps that goes on below, or the strand that another branch hangs on. */
export interface Rail {
  depth: number;
  rope: boolean;
  strand: boolean;
}

type Way = Exclude<OutlineLine, { kind: 'step' }>;
export const branchKey = ({ stepId, exit }: Pick<Way, 'stepId' | 'exit'>) => wayKey({ after: stepId, exit });

/** The lines that are shown: not those below a folded branch, nor ways that lead nowhere and need not. */
export function shownLines(lines: readonly OutlineLine[], folded: ReadonlySet<string>): OutlineLine[] {
  const shown: OutlineLine[] = [];
  let hiddenBelow: number | null = null;
  for (const line of lines) {
    if (hiddenBelow !== null && line.depth > hiddenBelow) continue;
    hiddenBelow = null;
    if (line.kind === 'open' && !line.needed) continue;
    shown.push(line);
    if (line.kind === 'branch' && folded.has(branchKey(line))) hiddenBelow = line.depth;
  }
  return shown;
}

/** What is drawn beside a line: the rails past it, and whether the rope of its own depth goes on below. */
export interface Rails {
  past: Rail[];
  goesOn: boolean;
}

/** The rails of each line. Read from the last line up, so that what is below has been seen. */
export function railsOf(lines: readonly OutlineLine[]): Rails[] {
  const rails: Rails[] = [];
  /** By depth: what comes first below, before anything shallower. */
  let below: (Rail | undefined)[] = [];
  for (const { kind, depth } of [...lines].reverse()) {
    const isStep = kind === 'step';
    const goesOn = below[depth]?.rope === true;
    const past = below.slice(0, isStep ? depth : depth + 1).filter((rail) => rail !== undefined);
    rails.push({ past, goesOn });
    below = below.slice(0, depth + 1);
    below[depth] = { depth, rope: isStep || goesOn, strand: !isStep };
  }
  return rails.reverse();
}

/** The number of each step, as the list counts them. */
export function numbersOf(lines: readonly OutlineLine[]): Map<string, string> {
  return new Map(
    lines.flatMap((line) => (line.kind === 'step' ? [[line.stepId, line.number] as const] : [])),
  );
}

/** What of a plan is unfolded on the page, and what runs past each of its lines. */
export function usePlanLines(lines: Readonly<Ref<readonly OutlineLine[]>>) {
  const folded = ref<ReadonlySet<string>>(new Set());
  const visible = computed(() => shownLines(lines.value, folded.value));
  const rails = computed(() => railsOf(visible.value));

  function fold(line: Pick<Way, 'stepId' | 'exit'>): void {
    const key = branchKey(line);
    const next = new Set(folded.value);
    if (!next.delete(key)) next.add(key);
    folded.value = next;
  }

  /** Branches of a step, all folded or all unfolded. */
  function foldAll(stepId: string, away: boolean): void {
    const next = new Set(folded.value);
    for (const line of lines.value) {
      if (line.kind !== 'branch' || line.stepId !== stepId) continue;
      if (away) next.add(branchKey(line));
      else next.delete(branchKey(line));
    }
    folded.value = next;
  }

  return { folded, visible, rails, fold, foldAll };
}

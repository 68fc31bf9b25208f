import { mainExit, type PlanDocument, stepAt } from './document.ts';
import { stepKinds } from './registry.ts';

/** A plan as a list: each line a step, or a way out of one that is not the usual. */
export type OutlineLine =
  | { kind: 'step'; stepId: string; depth: number; number: string }
  /** A branch that begins here; its steps follow, one level deeper. `steps` counts them. */
  | {
      kind: 'branch';
      stepId: string;
      exit: string;
      label: string;
      depth: number;
      target: string;
      steps: number;
    }
  /** It leads to a step that stands elsewhere in the list. */
  | { kind: 'goesTo'; stepId: string; exit: string; label: string; depth: number; target: string }
  /** It leads nowhere: what follows is said by the kind of step, or must be said still. */
  | { kind: 'open'; stepId: string; exit: string; label: string; depth: number; needed: boolean };

/** The lines of a plan in the order in which a caller may meet them. Steps no caller gets to come last, at depth 0. */
export function outline(document: PlanDocument): OutlineLine[] {
  const lines: OutlineLine[] = [];
  const placed = new Map<string, string>();

  function line(first: string, depth: number): void {
    for (let id: string | null = first; id !== null;) {
      const step: PlanDocument['steps'][string] = document.steps[id]!;
      const number = String(placed.size + 1);
      placed.set(id, number);
      lines.push({ kind: 'step', stepId: id, depth, number });
      const main = mainExit(step);
      const next: string | null = main === null ? null : stepAt(document, { after: id, exit: main });
      for (const exit of stepKinds[step.kind].exits(step.config as never)) {
        const at = { stepId: id, exit: exit.name, label: exit.label, depth };
        const target = stepAt(document, { after: id, exit: exit.name });
        if (target === null) {
          lines.push({ kind: 'open', ...at, needed: exit.needed === true });
        } else if (placed.has(target)) lines.push({ kind: 'goesTo', ...at, target });
        else if (exit.name !== main) {
          const branch = { kind: 'branch' as const, ...at, target, steps: 0 };
          lines.push(branch);
          const before = placed.size;
          line(target, depth + 1);
          branch.steps = placed.size - before;
        }
      }
      id = next !== null && !placed.has(next) ? next : null;
    }
  }

  const { start, steps } = document;
  if (start !== null && start in steps) line(start, 0);
  for (const id of Object.keys(steps)) if (!placed.has(id)) line(id, 0);
  return lines;
}

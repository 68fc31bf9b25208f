import type { CompiledStep } from '../model/plan.ts';
import { freeId, mainExit, type Place, type PlanDocument, stepAt, tie } from './document.ts';

/** Steps taken from a plan, in the order of its list, with the ways between them. */
export interface Copied {
  ids: readonly string[];
  steps: Readonly<Record<string, CompiledStep>>;
}

/** These steps of a plan, to be put elsewhere. */
export function copyOf({ steps }: PlanDocument, ids: readonly string[]): Copied {
  return { ids, steps: Object.fromEntries(ids.flatMap((id) => (id in steps ? [[id, steps[id]!]] : []))) };
}

/**
 * Copied steps tied in at a place under names of their own: ways between them are kept, others are left open. What nothing
 * of them leads to follows behind, along the usual way; what hung at the place follows the last of them.
 *
 * @returns the plan, and the first of the new steps; null where there is nothing to put
 */
export function graft(
  document: PlanDocument,
  place: Place,
  { ids, steps }: Copied,
): { document: PlanDocument; id: string } | null {
  const [first] = ids;
  if (first === undefined) return null;
  const behind = stepAt(document, place);
  let next = document;
  const named = new Map<string, string>();
  for (const id of ids) {
    const made = freeId(next);
    named.set(id, made);
    next = { ...next, steps: { ...next.steps, [made]: { ...steps[id]!, exits: {} } } };
  }
  for (const id of ids)
    for (const [exit, target] of Object.entries(steps[id]!.exits)) {
      const to = named.get(target);
      if (to !== undefined) next = tie(next, { after: named.get(id)!, exit }, to);
    }
  next = tie(next, place, named.get(first)!);
  const reached = new Set<string>();
  let end: Place | null = null;
  for (const id of ids) {
    const made = named.get(id)!;
    if (reached.has(made)) continue;
    if (end !== null) next = tie(next, end, made);
    else if (id !== first) {
      // The one before has no usual way on: there is no place for this one.
      next = without(next, made);
      continue;
    }
    reach(next, made, reached);
    end = endOf(next, made);
  }
  return { document: end === null || behind === null ? next : tie(next, end, behind), id: named.get(first)! };
}

function reach({ steps }: PlanDocument, from: string, reached: Set<string>): void {
  if (reached.has(from) || !(from in steps)) return;
  reached.add(from);
  for (const target of Object.values(steps[from]!.exits)) reach({ start: null, steps }, target, reached);
}

/** Where the line that begins with a step is open; null where it ends, or goes round. */
function endOf(document: PlanDocument, from: string): Place | null {
  const passed = new Set<string>();
  for (let id = from; !passed.has(id);) {
    passed.add(id);
    const exit = mainExit(document.steps[id]!);
    if (exit === null) return null;
    const target = stepAt(document, { after: id, exit });
    if (target === null) return { after: id, exit };
    id = target;
  }
  return null;
}

function without(document: PlanDocument, id: string): PlanDocument {
  const { [id]: _gone, ...steps } = document.steps;
  return { ...document, steps };
}

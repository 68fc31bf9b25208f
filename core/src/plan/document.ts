import type { CompiledPlan, CompiledStep, StepKindName } from '../model/plan.ts';
import { stepKinds } from './registry.ts';

/** A plan as people build it: its steps, the first of them, and by which exit each leads where. Plain data. */
export interface PlanDocument {
  /** Null while there is no step. */
  start: string | null;
  steps: Readonly<Record<string, CompiledStep>>;
}

export const emptyDocument: PlanDocument = { start: null, steps: {} };

/** Where a step hangs: at the beginning, or behind an exit of another. */
export type Place = { after: string; exit: string } | 'start';

/** With every field of its steps: one that a kind has got since the plan was written is as it comes from the shelf. */
export function completed(document: PlanDocument): PlanDocument {
  return {
    ...document,
    steps: Object.fromEntries(
      Object.entries(document.steps).map(([id, step]) => [
        id,
        { ...step, config: { ...stepKinds[step.kind].fresh, ...step.config } },
      ]),
    ),
  };
}

/** As the exchange runs it. What runs in circles ends. */
export function compiledPlan(id: string, version: number, document: PlanDocument): CompiledPlan {
  return { id, version, start: document.start ?? '', steps: document.steps, fallback: { kind: 'end' } };
}

/** The exit by which the list goes straight on from a step; null where it ends there. */
export function mainExit(step: CompiledStep): string | null {
  return stepKinds[step.kind].main;
}

/** What hangs at a place; null for nothing. */
export function stepAt({ start, steps }: PlanDocument, place: Place): string | null {
  const found = place === 'start' ? start : (steps[place.after]?.exits[place.exit] ?? null);
  return found !== null && found in steps ? found : null;
}

/** The same plan with the place leading to `stepId`, or nowhere. */
export function tie(document: PlanDocument, place: Place, stepId: string | null): PlanDocument {
  if (place === 'start') return { ...document, start: stepId };
  const step = document.steps[place.after];
  if (step === undefined) return document;
  const { [place.exit]: _before, ...exits } = step.exits;
  return withStep(document, place.after, {
    ...step,
    exits: stepId === null ? exits : { ...exits, [place.exit]: stepId },
  });
}

function withStep(document: PlanDocument, id: string, step: CompiledStep): PlanDocument {
  return { ...document, steps: { ...document.steps, [id]: step } };
}

/** A name no step has yet: s1, s2 and so on. */
export function freeId({ steps }: PlanDocument): string {
  let number = Object.keys(steps).length + 1;
  while (`s${number}` in steps) number++;
  return `s${number}`;
}

/** A step of this kind as it comes from the shelf. */
export function freshStep(kind: StepKindName): CompiledStep {
  return { kind, config: stepKinds[kind].fresh, exits: {} };
}

/** A step tied in at a place: what hung there follows it, by its usual exit, where it has one. */
export function insert(
  document: PlanDocument,
  place: Place,
  step: CompiledStep,
): { document: PlanDocument; id: string } {
  const id = freeId(document);
  const behind = stepAt(document, place);
  const main = mainExit(step);
  const tied =
    main !== null && behind !== null ? { ...step, exits: { ...step.exits, [main]: behind } } : step;
  return { document: tie(withStep(document, id, tied), place, id), id };
}

/** Every place that leads to a step. */
export function placesOf({ start, steps }: PlanDocument, id: string): Place[] {
  const places: Place[] = start === id ? ['start'] : [];
  for (const [after, step] of Object.entries(steps))
    for (const [exit, target] of Object.entries(step.exits)) if (target === id) places.push({ after, exit });
  return places;
}

/** Without a step: whatever led to it leads to what followed it. */
export function remove(document: PlanDocument, id: string): PlanDocument {
  const step = document.steps[id];
  if (step === undefined) return document;
  const main = mainExit(step);
  const following = main === null ? null : (step.exits[main] ?? null);
  const behind = following === id ? null : following;
  const without = placesOf(document, id).reduce((so, place) => tie(so, place, behind), document);
  const { [id]: _gone, ...steps } = without.steps;
  return { ...without, steps };
}

/** With another configuration; exits that the step does not have any more are untied. */
export function configure(document: PlanDocument, id: string, config: CompiledStep['config']): PlanDocument {
  const step = document.steps[id];
  if (step === undefined) return document;
  const names = new Set(stepKinds[step.kind].exits(config as never).map(({ name }) => name));
  const exits = Object.fromEntries(Object.entries(step.exits).filter(([exit]) => names.has(exit)));
  return withStep(document, id, { ...step, config, exits });
}

/**
 * One place earlier or later on the line it stands on. Null where it cannot go: at the ends of a line, or past a step
 * with no usual way on.
 */
export function move(document: PlanDocument, id: string, by: -1 | 1): PlanDocument | null {
  if (by === 1) {
    const main = mainExit(document.steps[id]!);
    const next = main === null ? null : stepAt(document, { after: id, exit: main });
    return next === null ? null : move(document, next, -1);
  }
  const step = document.steps[id]!;
  const main = mainExit(step);
  const before = placesOf(document, id).find(
    (place) => place !== 'start' && mainExit(document.steps[place.after]!) === place.exit,
  );
  if (main === null || before === undefined || before === 'start' || before.after === id) return null;
  // What led to the one before leads to this one, then to the one before, then on.
  const behind = stepAt(document, { after: id, exit: main });
  const ahead = placesOf(document, before.after).filter((place) => place === 'start' || place.after !== id);
  const led = ahead.reduce((so, place) => tie(so, place, id), document);
  const swapped = tie(led, { after: id, exit: main }, before.after);
  return tie(swapped, before, behind === before.after ? id : behind);
}

/**
 * These steps, one behind the other in the order given, at another place; what they stood between closes up, and what
 * hung at the place follows the last of them. Null where they cannot go: behind one of themselves, or before something
 * when the last has no usual way on.
 */
export function moveTo(document: PlanDocument, ids: readonly string[], place: Place): PlanDocument | null {
  const moved = new Set(ids);
  if (ids.length === 0 || ids.some((id) => !(id in document.steps))) return null;
  if (place !== 'start' && moved.has(place.after)) return null;
  // A step whose usual way leads on to what is not moved lets it close up first.
  const loose = ids.reduce((so, id) => lifted(so, id), document);
  const behind = stepAt(loose, place);
  const chain = ids.slice(0, -1).every((id) => mainExit(document.steps[id]!) !== null);
  const last = ids.at(-1)!;
  const lastMain = mainExit(document.steps[last]!);
  if (!chain || (behind !== null && lastMain === null)) return null;
  let next = tie(loose, place, ids[0]!);
  ids.forEach((id, i) => {
    const main = mainExit(document.steps[id]!);
    if (main !== null) next = tie(next, { after: id, exit: main }, ids[i + 1] ?? behind);
  });
  return next;
}

/** Everything that led to the step leads to what followed it; the step itself stays, and leads nowhere by its usual way. */
function lifted(document: PlanDocument, id: string): PlanDocument {
  const main = mainExit(document.steps[id]!);
  const following = main === null ? null : stepAt(document, { after: id, exit: main });
  const behind = following === id ? null : following;
  const without = placesOf(document, id).reduce((so, place) => tie(so, place, behind), document);
  return main === null ? without : tie(without, { after: id, exit: main }, null);
}

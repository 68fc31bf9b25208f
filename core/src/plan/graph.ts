import type { CompiledPlan } from '../model/plan.ts';

/** A plan is known by this: the same key, the same content. */
export function planKey(plan: CompiledPlan): string {
  return `${plan.id}@${plan.version}`;
}

/** The step an exit leads to; null when it is open. */
export function stepBehind(plan: CompiledPlan, stepId: string, exit: string): string | null {
  const next = plan.steps[stepId]?.exits[exit];
  return next !== undefined && next in plan.steps ? next : null;
}

/** Every step a caller can get to, from the first, in the order in which they are found. */
export function reachableSteps(plan: CompiledPlan): string[] {
  const found = new Set<string>(plan.start in plan.steps ? [plan.start] : []);
  for (const stepId of found) {
    for (const next of Object.values(plan.steps[stepId]!.exits)) if (next in plan.steps) found.add(next);
  }
  return [...found];
}

/** Plans that this one goes to; null when it returns to whoever went to it, so that nothing goes in circles by it. */
export function plansFrom(document: Pick<CompiledPlan, 'steps'> | null): string[] | null {
  if (document === null) return [];
  const steps = Object.values(document.steps);
  if (steps.some(({ kind }) => kind === 'comeBack')) return null;
  return steps.flatMap(({ kind, config }) => (kind === 'plan' ? [String(config.planId)] : []));
}

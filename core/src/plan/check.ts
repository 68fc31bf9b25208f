import { configSchema } from './fields.schema.ts';
import { type ItemKind, referencesOf } from './fields.ts';
import type { CompiledPlan } from '../model/plan.ts';
import { reachableSteps } from './graph.ts';
import { stepKinds } from './registry.ts';

/** Something about a plan that its owner should know, at the step where it is. */
export type PlanFinding =
  | { stepId: string; code: 'noStart' | 'unknownKind' | 'unreachable' }
  | { stepId: string; code: 'config'; said: string }
  | { stepId: string; code: 'gone'; kind: ItemKind; id: string }
  /** An exit the kind does not have, or one that leads to no step. */
  | { stepId: string; code: 'exit'; exit: string };

/**
 * Walks a plan as the run would, by the exits of each kind.
 *
 * @param has whether an item is there
 */
export function checkPlan(plan: CompiledPlan, has: (kind: ItemKind, id: string) => boolean): PlanFinding[] {
  const findings: PlanFinding[] = [];
  if (!(plan.start in plan.steps)) findings.push({ stepId: plan.start, code: 'noStart' });
  const reachable = new Set(reachableSteps(plan));
  for (const [stepId, step] of Object.entries(plan.steps)) {
    const kind = stepKinds[step.kind] as (typeof stepKinds)[keyof typeof stepKinds] | undefined;
    if (kind === undefined) {
      findings.push({ stepId, code: 'unknownKind' });
      continue;
    }
    if (!reachable.has(stepId)) findings.push({ stepId, code: 'unreachable' });
    const { error } = configSchema(kind.fields).validate(step.config);
    if (error !== undefined) {
      findings.push({ stepId, code: 'config', said: error.message });
      continue;
    }
    for (const { kind: of, id } of referencesOf(kind.fields, step.config))
      if (!has(of, id)) findings.push({ stepId, code: 'gone', kind: of, id });
    const exits = new Set(kind.exits(step.config as Record<string, string>).map(({ name }) => name));
    for (const [exit, next] of Object.entries(step.exits))
      if (!exits.has(exit) || !(next in plan.steps)) findings.push({ stepId, code: 'exit', exit });
  }
  return findings;
}

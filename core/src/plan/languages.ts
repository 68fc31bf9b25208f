import type { CompiledPlan, KeyChoice } from '../model/plan.ts';
import { stepKinds } from './registry.ts';
import { exitOfKey } from './steps/keys.ts';

/**
 * The languages callers may have chosen by a key of this plan when they come to each step; steps that everybody comes to
 * without having chosen are left out. Walks the plan once for each language it offers.
 */
export function languagesAt({ start, steps }: CompiledPlan): Map<string, ReadonlySet<string>> {
  const found = new Map<string, Set<string>>();
  const seen = new Set<string>();
  const open: { stepId: string; language: string | null }[] = [{ stepId: start, language: null }];
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    const { stepId, language } = next;
    const step = steps[stepId];
    const key = `${stepId} ${language}`;
    if (step === undefined || !(step.kind in stepKinds) || seen.has(key)) continue;
    seen.add(key);
    if (language !== null) found.set(stepId, (found.get(stepId) ?? new Set()).add(language));
    const chosen = new Map(
      step.kind === 'keys' && Array.isArray(step.config.keys)
        ? (step.config.keys as readonly KeyChoice[]).map((each) => [exitOfKey(each.key), each.language])
        : [],
    );
    for (const [exit, to] of Object.entries(step.exits))
      open.push({ stepId: to, language: chosen.get(exit) ?? language });
  }
  return found;
}

import { planWhenNobodyLifts } from '../../plan/compile.ts';
import type { CompiledPlan } from '../../model/plan.ts';
import { stepBehind } from '../../plan/graph.ts';
import { stepKinds } from '../../plan/registry.ts';
import type { Call } from '../calls/call.ts';
import { destinationName } from '../kernel/names.ts';
import type { State } from '../kernel/state.ts';

/** By which exit a step goes on while nobody lifts. */
const onwards = ['notTaken', 'notReached', 'noneLeft'];

/** What follows when nobody lifts, by name, from the step the call is in to where it would rest. */
export function pathAhead(state: Readonly<State>, call: Call): string[] {
  const frame = call.route.at(-1);
  const agent = state.agents.get(call.noAnswerPath?.personId ?? '');
  if (frame === undefined) return [];
  const behind = nextOf(frame.plan, frame.stepId);
  if (behind !== null) return namesFrom(state, frame.plan, behind);
  if (agent === undefined) return [];
  const plan = planWhenNobodyLifts(agent.person, agent.revision);
  return namesFrom(state, plan, plan.start);
}

function namesFrom(state: Readonly<State>, plan: CompiledPlan, first: string): string[] {
  const names: string[] = [];
  for (let at: string | null = first; at !== null; at = nextOf(plan, at)) {
    const step = plan.steps[at]!;
    const destination = stepKinds[step.kind].destination(step.config as Record<string, string>);
    names.push(destination === null ? 'their other phones' : destinationName(state, destination));
  }
  return names;
}

function nextOf(plan: CompiledPlan, stepId: string): string | null {
  for (const exit of onwards) {
    const next = stepBehind(plan, stepId, exit);
    if (next !== null) return next;
  }
  return null;
}

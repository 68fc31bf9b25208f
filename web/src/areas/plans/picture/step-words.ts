import type { CompiledStep } from '@night-bell/core/model/plan';
import { referencesOf } from '@night-bell/core/plan/fields';
import { stepKinds } from '@night-bell/core/plan/registry';
import { shortened } from '../../../kit/shortened.ts';
import type { PlanNames } from '../plan-names.ts';

const most = 20;

/** A step in a picture: the name of what it is about, and what it does with it. */
export function stepWords(step: CompiledStep, { nameOf }: Pick<PlanNames, 'nameOf'>) {
  const kind = stepKinds[step.kind];
  const whole = kind.describe(step.config as never, nameOf);
  // What rules ask of is not what they are about.
  if (step.kind === 'rules') {
    const count = (step.config.rules as readonly unknown[]).length;
    return { name: kind.word, does: count === 1 ? 'asks 1' : `asks ${count}`, whole };
  }
  const [first] = referencesOf(kind.fields, step.config).filter(({ id }) => id !== '');
  const name = first === undefined ? kind.word : nameOf(first.kind, first.id);
  return {
    name: shortened(name, most),
    does: name === kind.word ? '' : kind.word,
    whole,
  };
}

/** The key behind an exit of a menu; null for other ways. */
export function keyOf(exit: string): string | null {
  return /^key[\d*#]$/.test(exit) ? exit.slice(3) : null;
}

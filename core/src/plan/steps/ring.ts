import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { personId: { type: 'item', of: 'person', label: 'Person' } } as const;

/** Rings a person. When nobody lifts and the plan does not say what follows, what they set for that holds. */
export const ring: StepKind<typeof fields, never> = {
  kind: 'ring',
  word: 'Ring',
  fields,
  exits: () => [{ name: 'notTaken', label: 'nobody lifts' }, gone],
  destination: ({ personId }) => ({ kind: 'person', id: personId }),
  enter: (context, { personId }) =>
    context.has('person', personId) ? { begin: { kind: 'ring', personId } } : { exit: gone.name },
  whenOpen: (exit, { personId }) => (exit === 'notTaken' ? { whenNobodyLifts: personId } : endWhenOpen(exit)),
  describe: ({ personId }, names) => `Ring ${names('person', personId)}`,
};

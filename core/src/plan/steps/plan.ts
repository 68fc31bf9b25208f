import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { planId: { type: 'item', of: 'plan', label: 'Answering plan' } } as const;

/** Goes on in another answering plan, which takes the place of this one. */
export const plan: StepKind<typeof fields, never> = {
  kind: 'plan',
  word: 'Go to plan',
  fields,
  exits: () => [gone],
  main: null,
  fresh: { planId: '' },
  destination: ({ planId }) => ({ kind: 'plan', id: planId }),
  enter: (context, { planId }) => (context.has('plan', planId) ? { inPlan: planId } : { exit: gone.name }),
  whenOpen: endWhenOpen,
  describe: ({ planId }, names) => `Go on in ${names('plan', planId)}`,
};

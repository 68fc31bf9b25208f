import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { planId: { type: 'item', of: 'plan', label: 'Answering plan' } } as const;

/** The way by which a call comes back that another plan returns. */
export const returned = 'returned';

/** Goes on in another answering plan, and behind this step when that one returns. */
export const plan: StepKind<typeof fields, never> = {
  kind: 'plan',
  word: 'Go to plan',
  fields,
  exits: () => [{ name: returned, label: 'that plan returns' }, gone],
  main: returned,
  fresh: { planId: '' },
  destination: ({ planId }) => ({ kind: 'plan', id: planId }),
  enter: (context, { planId }) => (context.has('plan', planId) ? { inPlan: planId } : { exit: gone.name }),
  whenOpen: endWhenOpen,
  describe: ({ planId }, names) => `Go on in ${names('plan', planId)}`,
};

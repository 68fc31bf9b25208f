import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = {
  personId: { type: 'item', of: 'person', label: 'Person' },
  seconds: {
    type: 'wholeOrNone',
    label: 'Seconds it rings',
    least: 3,
    most: 120,
    otherwise: 'as long as they set',
  },
} as const;

/** Rings a person. When nobody lifts and the plan does not say what follows, what they set for that holds. */
export const ring: StepKind<typeof fields, never> = {
  kind: 'ring',
  word: 'Ring',
  fields,
  exits: () => [{ name: 'notTaken', label: 'nobody lifts' }, gone],
  main: 'notTaken',
  fresh: { personId: '', seconds: null },
  destination: ({ personId }) => ({ kind: 'person', id: personId }),
  enter: (context, { personId, seconds = null }) =>
    context.has('person', personId) ? { begin: { kind: 'ring', personId, seconds } } : { exit: gone.name },
  whenOpen: (exit, { personId }) => (exit === 'notTaken' ? { whenNobodyLifts: personId } : endWhenOpen(exit)),
  describe: ({ personId, seconds = null }, names) =>
    `Ring ${names('person', personId)}${seconds === null ? '' : ` for ${seconds} s`}`,
};

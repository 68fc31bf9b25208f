import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = { numberId: { type: 'item', of: 'number', label: 'Number' } } as const;

/** Goes on in the plan of another number of ours. */
export const goTo: StepKind<typeof fields, never> = {
  kind: 'goTo',
  word: 'Go to number',
  fields,
  exits: () => [{ name: 'unrouted', label: 'the number leads nowhere' }],
  main: null,
  fresh: { numberId: '' },
  destination: ({ numberId }) => ({ kind: 'number', id: numberId }),
  enter: (context, { numberId }) =>
    context.has('number', numberId) ? { continueAs: numberId } : { exit: 'unrouted' },
  whenOpen: (exit) =>
    exit === 'unrouted' ? { end: 'unroutable', why: 'unroutedNumber' } : endWhenOpen(exit),
  describe: ({ numberId }, names) => `Go on as ${names('number', numberId)}`,
};

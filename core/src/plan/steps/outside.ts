import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { outsideId: { type: 'item', of: 'outside', label: 'Outside number' } } as const;

/** Sends the call on to a number outside. */
export const outside: StepKind<typeof fields, never> = {
  kind: 'outside',
  word: 'Outside number',
  fields,
  exits: () => [{ name: 'notReached', label: 'nobody is reached' }, gone],
  main: 'notReached',
  fresh: { outsideId: '' },
  destination: ({ outsideId }) => ({ kind: 'outside', id: outsideId }),
  enter: (context, { outsideId }) =>
    context.has('outside', outsideId)
      ? { begin: { kind: 'dialOut', outsideId, seconds: null } }
      : { exit: gone.name },
  whenOpen: (exit) => (exit === 'notReached' ? { goTo: { kind: 'end' } } : endWhenOpen(exit)),
  describe: ({ outsideId }, names) => `Call ${names('outside', outsideId)}`,
};

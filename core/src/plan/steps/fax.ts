import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { boxId: { type: 'item', of: 'fax', label: 'Fax box' } } as const;

/** Receives a fax. */
export const fax: StepKind<typeof fields, never> = {
  kind: 'fax',
  word: 'Fax box',
  fields,
  exits: () => [gone],
  main: null,
  fresh: { boxId: '' },
  destination: ({ boxId }) => ({ kind: 'fax', id: boxId }),
  enter: (context, { boxId }) =>
    context.has('fax', boxId) ? { begin: { kind: 'receiveFax', boxId } } : { exit: gone.name },
  whenOpen: endWhenOpen,
  describe: ({ boxId }, names) => `Receive a fax in ${names('fax', boxId)}`,
};

import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { boxId: { type: 'item', of: 'voicemail', label: 'Voicemail box' } } as const;

/** Takes a message. */
export const voicemail: StepKind<typeof fields, never> = {
  kind: 'voicemail',
  word: 'Voicemail',
  fields,
  exits: () => [gone],
  main: null,
  fresh: { boxId: '' },
  destination: ({ boxId }) => ({ kind: 'voicemail', id: boxId }),
  enter: (context, { boxId }) =>
    context.has('voicemail', boxId) ? { begin: { kind: 'record', boxId } } : { exit: gone.name },
  whenOpen: endWhenOpen,
  describe: ({ boxId }, names) => `Take a message for ${names('voicemail', boxId)}`,
};

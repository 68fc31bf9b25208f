import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { boxId: { type: 'item', of: 'voicemail', label: 'Voicemail box' } } as const;

/** How long a caller is told that no message can be taken. */
const toldMs = 4_000;

/** Takes a message. A caller whom the box cannot take is told, and goes the step's way out or the box's own. */
export const voicemail: StepKind<typeof fields, null> = {
  kind: 'voicemail',
  word: 'Voicemail',
  fields,
  exits: () => [{ name: 'full', label: 'the box is full' }, gone],
  main: null,
  fresh: { boxId: '' },
  destination: ({ boxId }) => ({ kind: 'voicemail', id: boxId }),
  enter: (context, { boxId }) => {
    if (!context.has('voicemail', boxId)) return { exit: gone.name };
    const full = context.noMessage(boxId);
    if (full === null) return { begin: { kind: 'record', boxId } };
    context.note({
      ...{ kind: 'boxFull', boxId, name: context.nameOf({ kind: 'voicemail', id: boxId }) },
      ...{ why: full.why, held: full.held },
    });
    context.play('boxFull');
    return { rest: null, until: context.now + toldMs };
  },
  on: {
    timeout: (context, { boxId }) => ({
      exit: 'full',
      otherwise: context.noMessage(boxId)?.whenFull ?? null,
    }),
  },
  whenOpen: endWhenOpen,
  describe: ({ boxId }, names) => `Take a message for ${names('voicemail', boxId)}`,
};

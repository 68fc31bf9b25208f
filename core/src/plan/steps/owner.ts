import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = {
  seconds: {
    type: 'wholeOrNone',
    label: 'Seconds it rings',
    least: 3,
    most: 120,
    otherwise: 'as long as they set',
  },
} as const;

/** Rings whoever looks after the caller's record, when they work here. */
export const owner: StepKind<typeof fields, never> = {
  kind: 'owner',
  word: 'Record owner',
  fields,
  exits: () => [
    { name: 'notTaken', label: 'nobody lifts', needed: true },
    { name: 'noOwner', label: 'nobody looks after them' },
  ],
  main: 'notTaken',
  fresh: { seconds: 20 },
  destination: () => null,
  enter: (context, { seconds }) => {
    const ownerId = context.facts().record?.ownerId ?? null;
    return ownerId === null || !context.has('person', ownerId)
      ? { exit: 'noOwner' }
      : { begin: { kind: 'ring', personId: ownerId, seconds } };
  },
  // Whom nobody looks after goes the way of whom nobody lifts for.
  whenOpen: (exit) => (exit === 'noOwner' ? { exit: 'notTaken' } : endWhenOpen(exit)),
  describe: ({ seconds }) =>
    `Ring whoever looks after the caller${seconds === null ? '' : ` for ${seconds} s`}`,
};

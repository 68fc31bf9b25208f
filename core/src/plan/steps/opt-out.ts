import type { StepKind } from '../step-kind.ts';

const fields = {} as const;

/** The caller's number is never dialled by a campaign again. */
export const optOut: StepKind<typeof fields, never> = {
  kind: 'optOut',
  word: 'Opt out',
  fields,
  exits: () => [{ name: 'next', label: 'when it is done', needed: true }],
  main: 'next',
  fresh: {},
  destination: () => null,
  enter: (context) => {
    context.optOut();
    return { exit: 'next' };
  },
  whenOpen: () => ({ end: 'turnedAway', why: null }),
  describe: () => 'Take the caller off every list for good',
};

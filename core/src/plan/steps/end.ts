import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = {} as const;

/** Says that nobody can take the call, and ends it. */
export const end: StepKind<typeof fields, never> = {
  kind: 'end',
  word: 'End',
  fields,
  exits: () => [],
  main: null,
  fresh: {},
  destination: () => ({ kind: 'end' }),
  enter: () => ({ end: 'turnedAway', why: null }),
  whenOpen: endWhenOpen,
  describe: () => 'End the call',
};

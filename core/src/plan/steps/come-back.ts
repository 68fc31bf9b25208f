import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = {} as const;

/** Back to the plan that went to this one. Where no plan did, the call ends. */
export const comeBack: StepKind<typeof fields, never> = {
  kind: 'comeBack',
  word: 'Return',
  fields,
  exits: () => [],
  main: null,
  fresh: {},
  destination: () => null,
  enter: () => ({ comeBack: true }),
  whenOpen: endWhenOpen,
  describe: () => 'Go back to the plan that came here',
};

import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = {} as const;

/**
 * Says what follows for a caller when our side ends the talk first: a question how it was, a text. Whoever passes here
 * goes on; the other way is taken later, once, and the call counts as answered whatever becomes of it there.
 */
export const afterTalk: StepKind<typeof fields, never> = {
  kind: 'afterTalk',
  word: 'After the talk',
  fields,
  exits: () => [
    { name: 'next', label: 'go on' },
    { name: 'afterwards', label: 'after the talk', needed: true },
  ],
  main: 'next',
  fresh: {},
  destination: () => null,
  enter: (context) => {
    context.whenTalkIsOver('afterwards');
    return { exit: 'next' };
  },
  whenOpen: endWhenOpen,
  describe: () => 'Say what follows when the talk is over',
};

import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = { personId: { type: 'item', of: 'person', label: 'Person' } } as const;

/** Rings the other phones of a person, one after the other in ring order, until one is lifted or none is left. */
export const otherPhones: StepKind<typeof fields, never> = {
  kind: 'otherPhones',
  word: 'Other phones',
  fields,
  exits: () => [
    { name: 'notTaken', label: 'that phone is not lifted' },
    { name: 'noneLeft', label: 'no phone is left' },
  ],
  main: 'noneLeft',
  fresh: { personId: '' },
  destination: () => null,
  enter: (_context, { personId }) => ({ begin: { kind: 'ringOtherPhone', personId } }),
  // The next phone, until none is left.
  whenOpen: (exit, { personId }) =>
    exit === 'notTaken' ? { begin: { kind: 'ringOtherPhone', personId } } : endWhenOpen(exit),
  describe: ({ personId }, names) => `Ring the other phones of ${names('person', personId)}`,
};

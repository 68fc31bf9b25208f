import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { queueId: { type: 'item', of: 'queue', label: 'Queue' } } as const;

/** Waits for an agent of a queue. An exit left open leads where the queue itself says. */
export const queue: StepKind<typeof fields, never> = {
  kind: 'queue',
  word: 'Queue',
  fields,
  exits: () => [
    { name: 'queueFull', label: 'the queue is full' },
    { name: 'waitedTooLong', label: 'waited too long' },
    { name: 'nobodySignedIn', label: 'nobody is signed in' },
    { name: 'queueRetired', label: 'the queue is taken out while they wait' },
    gone,
  ],
  main: 'waitedTooLong',
  fresh: { queueId: '' },
  destination: ({ queueId }) => ({ kind: 'queue', id: queueId }),
  enter: (context, { queueId }) =>
    context.has('queue', queueId) ? { begin: { kind: 'wait', queueId } } : { exit: gone.name },
  whenOpen: endWhenOpen,
  describe: ({ queueId }, names) => `Wait for an agent of ${names('queue', queueId)}`,
};

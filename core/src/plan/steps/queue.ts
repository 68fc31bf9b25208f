import { noteQuestion } from '../asking.ts';
import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = {
  queueId: { type: 'item', of: 'queue', label: 'Queue' },
  priority: { type: 'wholeOrNone', label: 'Priority', least: 0, most: 9, otherwise: 'as the call has it' },
} as const;

/**
 * Waits for an agent of a queue. An exit left open leads where the queue itself says.
 *
 * @param asks whether the caller is asked on entering to be called back instead
 */
export const waitingFor = (
  asks: boolean,
): Omit<StepKind<typeof fields, null>, 'kind' | 'word' | 'describe'> => ({
  fields,
  exits: () => [
    { name: 'closed', label: 'the queue is closed' },
    { name: 'queueFull', label: 'the queue is full' },
    { name: 'waitedTooLong', label: 'waited too long' },
    { name: 'nobodySignedIn', label: 'nobody is signed in' },
    { name: 'allAway', label: 'everybody is away' },
    { name: 'pressed', label: 'the caller presses the key to leave' },
    { name: 'queueRetired', label: 'the queue is taken out while they wait' },
    gone,
  ],
  main: 'waitedTooLong',
  fresh: { queueId: '', priority: null },
  destination: ({ queueId }) => ({ kind: 'queue', id: queueId }),
  enter: (context, { queueId, priority = null }) => {
    if (!context.has('queue', queueId)) return { exit: gone.name };
    const notice = context.recordForQueue(queueId);
    if (notice === null) return { begin: { kind: 'wait', queueId, priority, asks } };
    noteQuestion(context, notice.id);
    return { rest: null, until: context.now + context.say(notice, []) };
  },
  on: {
    timeout: (context, { queueId, priority = null }) => {
      context.toldOfRecording();
      return context.has('queue', queueId)
        ? { begin: { kind: 'wait', queueId, priority, asks } }
        : { exit: gone.name };
    },
  },
  whenOpen: endWhenOpen,
});

export const queue: StepKind<typeof fields, null> = {
  ...{ kind: 'queue', word: 'Queue', ...waitingFor(false) },
  describe: ({ queueId, priority = null }, names) =>
    `Wait for an agent of ${names('queue', queueId)}${priority === null ? '' : `, with priority ${priority}`}`,
};

/** Asks whether they want to be called back in their turn; who does not waits in the queue. */
export const callBack: StepKind<typeof fields, null> = {
  ...{ kind: 'callBack', word: 'Call back', ...waitingFor(true) },
  describe: ({ queueId }, names) =>
    `Ask to be called back by ${names('queue', queueId)}; who does not want that waits`,
};

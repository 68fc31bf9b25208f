import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = {
  when: {
    type: 'choice',
    label: 'For callers who',
    of: [
      { value: 'notAnswered', title: 'leave unanswered' },
      { value: 'always', title: 'leave, whatever happened' },
    ],
  },
  note: { type: 'text', label: 'Note to their record', most: 600, otherwise: 'no note' },
  numberId: { type: 'itemOrNone', of: 'number', label: 'Number a text is sent from', otherwise: 'no text' },
  words: { type: 'text', label: 'Text', most: 600, otherwise: 'no text at all' },
  hoursId: { type: 'itemOrNone', of: 'hours', label: 'Text only while open', otherwise: 'at any time' },
} as const;

/** Says what is done once the caller has left: a note to their record, a text. It is done without them, and once. */
export const whenLeft: StepKind<typeof fields, never> = {
  kind: 'whenLeft',
  word: 'When they left',
  fields,
  exits: () => [{ name: 'next', label: 'go on', needed: true }],
  main: 'next',
  fresh: { when: 'notAnswered', note: '', numberId: '', words: '', hoursId: '' },
  destination: () => null,
  enter: (context, { when, ...rest }) => {
    context.whenCallerLeft({ always: when === 'always', ...rest });
    return { exit: 'next' };
  },
  whenOpen: endWhenOpen,
  describe: ({ when, note, numberId, words, hoursId }, names) => {
    const open = hoursId === '' ? '' : ` while ${names('hours', hoursId)} is open`;
    const does = [
      ...(note === '' ? [] : [`note “${note}” with their record`]),
      ...(numberId === '' ? [] : [`send a text from ${names('number', numberId)}${open}: “${words}”`]),
    ];
    const who = when === 'always' ? 'When the caller has left' : 'When the caller leaves unanswered';
    return `${who}, ${does.join(' and ') || 'do nothing yet'}`;
  },
};

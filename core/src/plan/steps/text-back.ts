import { endWhenOpen, type StepContext, type StepKind } from '../step-kind.ts';
import { filled, whyNotSent } from '../text-sent.ts';

const fields = {
  numberId: { type: 'item', of: 'number', label: 'Number it is sent from' },
  words: { type: 'text', label: 'Text', most: 600, otherwise: 'no text at all' },
  hoursId: { type: 'itemOrNone', of: 'hours', label: 'Only while open', otherwise: 'at any time' },
} as const;

/** Sends the caller a text with its fields filled, when it may be sent; says in the story which. */
export function sendText(
  context: StepContext,
  { numberId, words, hoursId }: { numberId: string; words: string; hoursId: string },
): boolean {
  const { record, from, found } = context.facts();
  const body = filled(words, { record, called: context.called, found });
  const hours = hoursId === '' ? undefined : context.hours(hoursId);
  const to = { from, isOptedOut: context.isOptedOut(), hasNumber: context.has('number', numberId), hours };
  const why = whyNotSent({ ...to, now: context.now }, body);
  if (why !== null) {
    context.note({ kind: 'textNotSent', why });
    return false;
  }
  context.text({ numberId, body });
  context.note({ kind: 'textSent', from: context.nameOfItem('number', numberId), body });
  return true;
}

/** Sends the caller a text, never against an opt-out; fields of their record are merged in. */
export const textBack: StepKind<typeof fields, never> = {
  kind: 'textBack',
  word: 'Text back',
  fields,
  exits: () => [
    { name: 'next', label: 'sent' },
    { name: 'notSent', label: 'no text could be sent' },
  ],
  main: 'next',
  fresh: { numberId: '', words: '', hoursId: '' },
  destination: () => null,
  enter: (context, config) => ({ exit: sendText(context, config) ? 'next' : 'notSent' }),
  // The call goes on, whether a text went out or not.
  whenOpen: (exit) => (exit === 'notSent' ? { exit: 'next' } : endWhenOpen(exit)),
  describe: ({ numberId, words, hoursId }, names) =>
    `Send a text from ${names('number', numberId)}${hoursId === '' ? '' : ` while ${names('hours', hoursId)} is open`}: ${
      words === '' ? 'no words yet' : `“${words}”`
    }`,
};

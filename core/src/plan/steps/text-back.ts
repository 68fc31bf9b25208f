import { standingAt } from '../../hours/opening-hours.ts';
import { fieldKey, merge } from '../../match/merge.ts';
import { formatNumber } from '../../numbers/format.ts';
import type { RecordFacts } from '../../story/facts.ts';
import { endWhenOpen, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  numberId: { type: 'item', of: 'number', label: 'Number it is sent from' },
  words: { type: 'text', label: 'Text', most: 600, otherwise: 'no text at all' },
  hoursId: { type: 'itemOrNone', of: 'hours', label: 'Only while open', otherwise: 'at any time' },
} as const;

/** Fields that may be merged into a text: of the record, and the number called. */
export function textFields(record: RecordFacts | null, called: string): Record<string, string> {
  const own = Object.entries(record?.fields ?? {}).map(([key, value]) => [`record.${fieldKey(key)}`, value]);
  return {
    ...Object.fromEntries(own),
    ...(record === null ? {} : { 'record.name': record.name }),
    'call.number': called.startsWith('+') ? formatNumber(called) : called,
  };
}

type NotSent = 'withheld' | 'optedOut' | 'closed' | 'empty' | 'numberGone';

function whyNot(
  context: StepContext,
  { numberId, hoursId }: { numberId: string; hoursId: string },
  body: string,
): NotSent | null {
  if (!context.facts().from.startsWith('+')) return 'withheld';
  if (context.isOptedOut()) return 'optedOut';
  if (!context.has('number', numberId)) return 'numberGone';
  const hours = hoursId === '' ? undefined : context.hours(hoursId);
  if (hours !== undefined && standingAt(hours, context.now).state !== 'open') return 'closed';
  return body.trim() === '' ? 'empty' : null;
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
  enter: (context, config) => {
    const { record } = context.facts();
    const body = merge(config.words, textFields(record, context.called)).trim();
    const why = whyNot(context, config, body);
    const from = context.nameOfItem('number', config.numberId);
    if (why !== null) {
      context.note({ kind: 'textNotSent', why });
      return { exit: 'notSent' };
    }
    context.text({ numberId: config.numberId, body });
    context.note({ kind: 'textSent', from, body });
    return { exit: 'next' };
  },
  // The call goes on, whether a text went out or not.
  whenOpen: (exit) => (exit === 'notSent' ? { exit: 'next' } : endWhenOpen(exit)),
  describe: ({ numberId, words, hoursId }, names) =>
    `Send a text from ${names('number', numberId)}${hoursId === '' ? '' : ` while ${names('hours', hoursId)} is open`}: ${
      words === '' ? 'no words yet' : `“${words}”`
    }`,
};
